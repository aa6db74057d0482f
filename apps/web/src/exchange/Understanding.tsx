import type { ImportAnswers, ImportView } from "@chronometra/contract";
import { useMutation } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";
import type { Column } from "../shared/table/column.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { countWords, dateWords, numberWords } from "../shared/words/words.ts";
import { FileChangesView } from "./FileChangesView.tsx";
import { Headings } from "./Headings.tsx";
import { DateQuestion, NumberQuestion, ProjectFields } from "./Questions.tsx";
import { Drop, StoreBundle, Destination } from "./StoreBundle.tsx";

interface Props {
  readonly view: ImportView;
  readonly onView: (view: ImportView) => void;
}

type Problem = ImportView["problems"][number];
type Preview = ImportView["preview"][number];

const PROBLEM_COLUMNS: readonly Column<Problem>[] = [
  {
    id: "level",
    head: "",
    value: ({ level }) => (level === "error" ? "must be mended" : "note"),
    show: ({ level }) => (
      <span className={level === "error" ? "adverse" : "undecided"}>
        {level === "error" ? "✗ must be mended" : "◦ note"}
      </span>
    ),
  },
  { id: "place", head: "Where", value: ({ place }) => place },
  { id: "table", head: "Table", value: ({ table }) => table },
  { id: "row", head: "Row", value: ({ row }) => row },
  { id: "field", head: "Field", value: ({ field }) => field },
  { id: "message", head: "What", wraps: true, value: ({ message }) => message },
];

const PREVIEW_COLUMNS: readonly Column<Preview>[] = [
  {
    id: "name",
    head: "Activity",
    value: ({ name }) => name,
    show: ({ name, depth }) => <span style={{ paddingLeft: depth * 14 }}>{name}</span>,
  },
  { id: "id", head: "Id", value: ({ id }) => id },
  { id: "duration", head: "Duration", value: ({ duration }) => duration },
  {
    id: "start",
    head: "Starts",
    value: ({ start }) => start,
    show: ({ start }) => (start === "" ? "–" : dateWords(start)),
  },
  {
    id: "finish",
    head: "Finishes",
    value: ({ finish }) => finish,
    show: ({ finish }) => (finish === "" ? "–" : dateWords(finish)),
  },
];

/** What was understood of a file and what was not, with the questions it leaves open. */
export function Understanding({ view, onView }: Props) {
  const answer = useMutation({
    mutationFn: (answers: ImportAnswers) =>
      call("PUT /api/imports/:import", { params: { import: view.id }, body: answers }),
    onSuccess: onView,
  });
  const say = (more: Partial<ImportAnswers>): void => answer.mutate({ ...view.answers, ...more });
  const counts = view.counts.filter(({ rows }) => rows > 0);
  return (
    <div className="page" aria-busy={answer.isPending}>
      <h1 className="text-xl">{view.fileName}</h1>
      <p className="muted text-sm">
        {counts.length === 0
          ? "Nothing was understood yet."
          : `Understood: ${counts.map(({ table, rows }) => `${numberWords(rows)} ${table}`).join(", ")}.`}
        {answer.isPending && " Reading it again …"}
      </p>
      {view.numberQuestion !== null && (
        <NumberQuestion
          question={view.numberQuestion}
          answer={view.answers.numberStyle}
          onAnswer={(numberStyle) => say({ numberStyle })}
        />
      )}
      {view.dateQuestion !== null && (
        <DateQuestion
          question={view.dateQuestion}
          answer={view.answers.dateOrder}
          onAnswer={(dateOrder) => say({ dateOrder })}
        />
      )}
      <Destination
        view={view}
        onAnswer={(changesTo) => {
          const { changesTo: _was, ...rest } = view.answers;
          answer.mutate(changesTo === undefined ? rest : { ...rest, changesTo });
        }}
      />
      {view.answers.changesTo === undefined ? (
        <>
          <ProjectFields view={view} onAnswer={(project) => say({ project })} />
          <StoreBundle view={view} />
        </>
      ) : view.storable ? (
        <FileChangesView key={view.answers.changesTo} view={view}>
          <Drop view={view} />
        </FileChangesView>
      ) : (
        <p className="adverse mt-2 text-sm">
          Nothing is taken over until {countWords(view.errors, "error is", "errors are")} mended.
        </p>
      )}
      {answer.error !== null && <Failure error={answer.error} />}
      {view.problems.length > 0 && (
        <section className="pt-4">
          <h2 className="pb-1 text-base">What was not understood, or was supplied</h2>
          {view.errors > view.problems.length && (
            <p className="muted text-sm">
              The first {view.problems.length} of {view.errors} are shown.
            </p>
          )}
          <div className="max-h-80 overflow-auto" tabIndex={0} role="region" aria-label="What was not understood">
            <DataTable
              name="Problems"
              rows={view.problems}
              columns={PROBLEM_COLUMNS}
              rowKey={(problem) =>
                `${problem.place} ${problem.table} ${problem.row} ${problem.field} ${problem.message}`
              }
              empty=""
            />
          </div>
        </section>
      )}
      {view.sheets.length > 0 && <Headings view={view} onAnswer={(sheets) => say({ sheets })} />}
      {view.preview.length > 0 && view.answers.changesTo === undefined && (
        <section className="pt-4">
          <h2 className="pb-1 text-base">The first activities, as they would be stored</h2>
          <DataTable name="Preview" rows={view.preview} columns={PREVIEW_COLUMNS} rowKey={({ id }) => id} empty="" />
        </section>
      )}
    </div>
  );
}
