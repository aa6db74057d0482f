import type { BroughtList, DateOrder, MatterKind, NewMatter } from "@chronometra/contract";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { FileUp } from "lucide-react";
import { useState } from "react";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { DateOrderAsked } from "../../shared/fields/DateOrderAsked.tsx";
import { call } from "../../shared/session/api.ts";
import { countWords } from "../../shared/words/words.ts";
import type { MatterKeeper } from "../queries.ts";
import { ListLines } from "./ListLines.tsx";

type Columns = Readonly<Record<string, string>>;

interface Props {
  /** The register that lines are for which do not say. */
  readonly kind: MatterKind | null;
  /** Where lines go which do not say; `null` where each has to. */
  readonly project: string | null;
  readonly keeper: MatterKeeper;
}

/** What each column of the file is. */
function Headings({ list, onColumns }: { list: BroughtList; onColumns: (columns: Columns) => void }) {
  const now = Object.fromEntries(list.headings.map(({ heading, column }) => [heading, column ?? ""]));
  return (
    <ul aria-label="Columns of the file" className="flex flex-wrap gap-x-4 gap-y-1 text-sm">
      {list.headings.map(({ heading }) => (
        <li key={heading}>
          <label className="flex items-center gap-1">
            <span className="max-w-40 truncate" title={heading}>
              {heading}
            </span>
            <select
              className="select select-xs w-48"
              aria-label={`What ${heading} is`}
              value={now[heading]}
              onChange={(event) => onColumns({ ...now, [heading]: event.target.value })}
            >
              <option value="">left out</option>
              {list.columns.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        </li>
      ))}
    </ul>
  );
}

/** What can be added of a list: whole lines, and none that stand there. */
const addable = ({ lines }: BroughtList): NewMatter[] =>
  lines.flatMap(({ matter, isThere }) => (matter === null || isThere ? [] : [matter]));

/** What comes of a list, in a sentence. */
function sumWords({ lines }: BroughtList): string {
  const there = lines.filter(({ isThere }) => isThere).length;
  const faulty = lines.filter(({ faults }) => faults.length > 0).length;
  const parts = [
    countWords(lines.length, "row", "rows"),
    ...(there === 0 ? [] : [`${there} of a name that stands there, left out`]),
    ...(faulty === 0 ? [] : [`${faulty} to be mended in the file`]),
  ];
  return `${parts.join("; ")}.`;
}

/** A list as it was understood, and what is still asked of it. */
function Understood({ file, kind, project, keeper, onDone }: Props & { file: File; onDone: () => void }) {
  const [order, setOrder] = useState<DateOrder | "">("");
  const [columns, setColumns] = useState<Columns>({});
  const [fault, setFault] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const read = useQuery({
    queryKey: ["list", kind, project, file.name, file.size, file.lastModified, order, columns],
    queryFn: ({ signal }) =>
      call("POST /api/matters/read", {
        query: { kind: kind ?? "", project: project ?? "", dateOrder: order, columns: JSON.stringify(columns) },
        ...{ files: [file], signal },
      }),
    ...{ placeholderData: keepPreviousData, staleTime: Infinity, gcTime: 0, retry: false },
  });
  const list = read.data;
  if (list === undefined)
    return read.error === null ? <p role="status">Reading {file.name} …</p> : <Failure error={read.error} />;
  const ready = addable(list);
  const hasFaults = list.lines.some(({ faults }) => faults.length > 0);
  const add = async (): Promise<void> => {
    setBusy(true);
    const told = await keeper.addList(ready);
    setBusy(false);
    setFault(told);
    if (told === null) onDone();
  };
  return (
    <div className="flex flex-col gap-3" aria-busy={read.isFetching}>
      <Headings list={list} onColumns={setColumns} />
      {list.asksDateOrder && <DateOrderAsked order={order} onOrder={setOrder} />}
      <p className="text-sm">{sumWords(list)}</p>
      <ListLines list={list} />
      {read.error !== null && <Failure error={read.error} />}
      {fault !== null && (
        <p role="alert" className="adverse text-sm">
          {fault}
        </p>
      )}
      <div className="flex items-center gap-3">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={hasFaults || ready.length === 0 || isBusy || read.isFetching}
          onClick={() => void add()}
        >
          {isBusy ? "Adding …" : `Add ${ready.length}`}
        </button>
        {hasFaults && <span className="muted text-sm">All or nothing: mend those rows, or say what columns are.</span>}
      </div>
    </div>
  );
}

/** Where a list comes from: a file, dropped or selected, or lines copied from a spreadsheet. */
function Source({ onFile }: { onFile: (file: File) => void }) {
  const [text, setText] = useState("");
  return (
    <div
      className="flex flex-col gap-3 text-sm"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        if (event.dataTransfer.files[0] !== undefined) onFile(event.dataTransfer.files[0]);
      }}
    >
      <p className="max-w-prose">
        A workbook or CSV with one row of headings: what it is, and as far as you have them register, project, owner,
        due, severity, probability, state. Nothing is added before you have seen it.
      </p>
      <label className="btn btn-sm self-start">
        <FileUp size={14} aria-hidden="true" /> Select a file
        <input
          type="file"
          className="sr-only"
          accept=".csv,.xlsx,.ods,.txt"
          aria-label="File of the list"
          onChange={({ target }) => target.files?.[0] !== undefined && onFile(target.files[0])}
        />
      </label>
      <textarea
        className="textarea h-24 w-full px-2 py-1"
        aria-label="Lines of a spreadsheet"
        placeholder="or paste lines from a spreadsheet here, with their headings"
        value={text}
        onChange={({ target }) => setText(target.value)}
      />
      <button
        type="button"
        className="btn btn-sm self-start"
        disabled={text.trim() === ""}
        onClick={() => onFile(new File([text], "pasted lines.txt", { type: "text/plain" }))}
      >
        Read these lines
      </button>
    </div>
  );
}

/** Brings a list into the registers: looked at first, then added whole, and taken back whole. */
export function BringList(props: Props) {
  const [open, setOpen] = useState(false);
  const [file, setFile] = useState<File | null>(null);
  const close = (): void => {
    setOpen(false);
    setFile(null);
  };
  return (
    <>
      <button type="button" className="btn btn-sm" onClick={() => setOpen(true)}>
        Bring a list …
      </button>
      {open && (
        <Dialog title={file === null ? "A list for the registers" : file.name} onClose={close} wide>
          {file === null ? (
            <Source onFile={setFile} />
          ) : (
            <>
              <Understood {...props} file={file} onDone={close} />
              <button type="button" className="btn btn-ghost btn-sm mt-2" onClick={() => setFile(null)}>
                Take another file
              </button>
            </>
          )}
        </Dialog>
      )}
    </>
  );
}
