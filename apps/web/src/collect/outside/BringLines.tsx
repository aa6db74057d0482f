import {
  LINE_COLUMNS,
  type DateOrder,
  type LineKind,
  type NumberStyle,
  type OutsideFile,
  type TakenIn,
} from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { FileUp } from "lucide-react";
import { useRef, useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { countWords } from "../../shared/words/words.ts";
import { DateOrderAsked } from "../../shared/fields/DateOrderAsked.tsx";

/** What became of lines that came in, in a sentence. */
export function takenWords({ added, matched, unmatched, corrections, known }: TakenIn): string {
  const parts = [
    ...(added > 0
      ? [
          `${countWords(added, "line", "lines")} taken in, ${matched} matched${unmatched > 0 ? `, ${unmatched} to be matched` : ""}`,
        ]
      : []),
    ...(corrections > 0 ? [`${countWords(corrections, "correction waits", "corrections wait")} to be accepted`] : []),
    ...(known > 0 ? [`${countWords(known, "line was", "lines were")} here already`] : []),
  ];
  return `${added + corrections === 0 ? "Nothing new: " : ""}${parts.join("; ")}.`;
}

type Columns = Readonly<Record<string, string>>;

/** The columns of the file, each with what it is of ours. */
function Headings({
  file,
  kind,
  columns,
  onColumns,
}: {
  file: OutsideFile;
  kind: LineKind;
  columns: Columns;
  onColumns: (columns: Columns) => void;
}) {
  return (
    <table className="ledger" aria-label="Columns of the file">
      <thead>
        <tr>
          <th>In the file</th>
          <th>Such as</th>
          <th>Is our</th>
        </tr>
      </thead>
      <tbody>
        {file.headings.map(({ heading, sample, remembered }) => (
          <tr key={heading}>
            <td>{heading}</td>
            <td className="muted max-w-48 truncate text-sm">{sample.join(", ")}</td>
            <td>
              <select
                className="select select-xs w-44"
                aria-label={`What ${heading} is`}
                value={columns[heading]}
                onChange={(event) => onColumns({ ...columns, [heading]: event.target.value })}
              >
                <option value="">left out</option>
                {Object.entries(LINE_COLUMNS[kind]).map(([column, needed]) => (
                  <option key={column} value={column}>
                    {column}
                    {needed ? " (needed)" : ""}
                  </option>
                ))}
              </select>
              {remembered && <span className="muted pl-1 text-xs">as before</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function NumbersAsked({
  sample,
  numbers,
  onNumbers,
}: {
  sample: string;
  numbers: NumberStyle | "";
  onNumbers: (numbers: NumberStyle | "") => void;
}) {
  return (
    <label className="flex items-center gap-2 text-sm">
      “{sample}” means
      <select
        className="select select-sm w-56"
        value={numbers}
        onChange={(event) => onNumbers(event.target.value as NumberStyle | "")}
      >
        <option value="">say which sign parts decimals</option>
        <option value="point">a point before decimals: 1.5</option>
        <option value="comma">a comma before decimals: 1,5</option>
      </select>
    </label>
  );
}

/** Which column of the file is which of ours; remembered for the next file. */
function FileColumns({ file, kind, onDone }: { file: OutsideFile; kind: LineKind; onDone: () => void }) {
  const client = useQueryClient();
  const [columns, setColumns] = useState<Columns>(() =>
    Object.fromEntries(file.headings.map(({ heading, column }) => [heading, column ?? ""])),
  );
  const [order, setOrder] = useState<DateOrder | "">("");
  const [numbers, setNumbers] = useState<NumberStyle | "">("");
  const take = useMutation({
    mutationFn: () =>
      call("POST /api/outside/files/:file/take", {
        params: { file: file.id },
        body: {
          columns,
          ...(order === "" ? {} : { dateOrder: order }),
          ...(numbers === "" ? {} : { numberStyle: numbers }),
        },
      }),
    onSuccess: (taken) => {
      toast(takenWords(taken));
      void client.invalidateQueries({ queryKey: ["outside"] });
      onDone();
    },
  });
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        take.mutate();
      }}
    >
      <p className="text-sm">
        {countWords(file.rows, "row", "rows")} in {file.name}. What is selected here is remembered for the next file of
        this kind.
      </p>
      <Headings file={file} kind={kind} columns={columns} onColumns={setColumns} />
      {file.asksDateOrder && <DateOrderAsked order={order} onOrder={setOrder} />}
      {file.asksNumbers !== null && <NumbersAsked sample={file.asksNumbers} numbers={numbers} onNumbers={setNumbers} />}
      {take.error !== null && <Failure error={take.error} />}
      <button className="btn btn-primary btn-sm self-start" disabled={take.isPending}>
        Take the lines in
      </button>
    </form>
  );
}

/** Brings a file of costs or of time from another system. */
export function BringLines({ kind }: { kind: LineKind }) {
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<OutsideFile | null>(null);
  const bring = useMutation({
    mutationFn: (chosen: File) => call("POST /api/outside/files/:kind", { params: { kind }, files: [chosen] }),
    onSuccess: setFile,
    onError: (error) => toast.error(error.message),
  });
  return (
    <>
      <input
        ref={input}
        type="file"
        className="sr-only"
        tabIndex={-1}
        accept=".csv,.xlsx,.ods,.txt"
        aria-label={kind === "cost" ? "File of costs" : "File of time"}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen !== undefined) bring.mutate(chosen);
          event.target.value = "";
        }}
      />
      <button type="button" className="btn btn-sm" disabled={bring.isPending} onClick={() => input.current?.click()}>
        <FileUp size={14} aria-hidden="true" /> {kind === "cost" ? "Costs from a file" : "Time from a file"}
      </button>
      {file !== null && (
        <Dialog title={kind === "cost" ? "Costs from a file" : "Time from a file"} onClose={() => setFile(null)}>
          <FileColumns file={file} kind={kind} onDone={() => setFile(null)} />
        </Dialog>
      )}
    </>
  );
}
