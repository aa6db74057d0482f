import type { ImportAnswers, ImportView } from "@chronometra/contract";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { call } from "../shared/session/api.ts";
import type { Column } from "../shared/table/column.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { countWords, dateWords } from "../shared/words/words.ts";
import { FileChangesView } from "./FileChangesView.tsx";
import { Headings } from "./Headings.tsx";
import { Kept } from "./Kept.tsx";
import { LeftOut, Mending, Supplied } from "./Mending.tsx";
import { PeopleQuestion } from "./People.tsx";
import { DateQuestion, DatesOrLinks, NumberQuestion, ProjectFields, RowKeysQuestion } from "./Questions.tsx";
import { Drop, StoreBundle, Destination } from "./StoreBundle.tsx";

interface Props {
  readonly view: ImportView;
  readonly onView: (view: ImportView) => void;
}

type Preview = ImportView["preview"][number];

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

/** What rows of a table are called, one and several. */
const COUNTED: Readonly<Record<string, readonly [one: string, many: string]>> = {
  activities: ["activity", "activities"],
  links: ["link", "links"],
  people: ["person", "people"],
  assignments: ["person’s work on an activity", "times someone works on an activity"],
  costs: ["planned cost", "planned costs"],
  calendars: ["calendar", "calendars"],
  baselines: ["approved plan", "approved plans"],
  timeEntries: ["time entry", "time entries"],
  actualCosts: ["cost that arose", "costs that arose"],
  fields: ["own field", "own fields"],
  ownValues: ["activity with values of own fields", "activities with values of own fields"],
  teams: ["team", "teams"],
  categories: ["cost category", "cost categories"],
  placeholders: ["person who stands for a role", "people who stand for a role"],
  carried: ["link carried across parked work", "links carried across parked work"],
  blocks: ["blocked activity", "blocked activities"],
  promises: ["promise", "promises"],
  notes: ["note", "notes"],
  ranges: ["range", "ranges"],
  risks: ["risk", "risks"],
  meetings: ["meeting", "meetings"],
  alternates: ["set of alternates", "sets of alternates"],
  timeboxes: ["timebox", "timeboxes"],
  boxed: ["activity among timeboxes", "activities among timeboxes"],
  gathered: ["gathered activity", "gathered activities"],
  history: ["revision", "revisions"],
  matters: ["entry of registers", "entries of registers"],
  issuedPeriods: ["issued period", "issued periods"],
  issuedReports: ["issued report", "issued reports"],
  whatIfs: ["what-if", "what-ifs"],
  reserves: ["entry of reserves", "entries of reserves"],
  reports: ["report of work", "reports of work"],
  documents: ["document", "documents"],
  talk: ["message", "messages"],
};

/** What the file leaves open: how numbers and dates are written, what rows are called by, whether dates or links hold. */
function Asked({ view, say }: { view: ImportView; say: (more: Partial<ImportAnswers>) => void }) {
  return (
    <>
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
      {view.rowKeysQuestion !== null && (
        <RowKeysQuestion
          question={view.rowKeysQuestion}
          answer={view.answers.rowKeys}
          onAnswer={(rowKeys) => say({ rowKeys })}
        />
      )}
      {view.datesQuestion !== null && (
        <DatesOrLinks
          question={view.datesQuestion}
          answer={view.answers.datesOrLinks}
          onAnswer={(datesOrLinks) => say({ datesOrLinks })}
        />
      )}
    </>
  );
}

/** What was understood of a file and what was not, with the questions it leaves open. */
export function Understanding({ view: brought, onView }: Props) {
  // What was said counts at once: what is said next, before the file is read again, is said on top of it.
  const [answers, setAnswers] = useState(brought.answers);
  const answer = useMutation({
    // One after the other: the last that was said is the last that is read.
    scope: { id: `answers ${brought.id}` },
    mutationFn: (body: ImportAnswers) => call("PUT /api/imports/:import", { params: { import: brought.id }, body }),
    onSuccess: onView,
    onError: () => setAnswers(brought.answers),
  });
  const view = { ...brought, answers, storable: brought.storable && !answer.isPending };
  const put = (next: ImportAnswers): void => {
    setAnswers(next);
    answer.mutate(next);
  };
  const say = (more: Partial<ImportAnswers>): void => put({ ...answers, ...more });
  const counts = view.counts.filter(({ rows }) => rows > 0);
  return (
    <div className="page" aria-busy={answer.isPending}>
      <h1 className="text-xl">{view.fileName}</h1>
      <p className="muted text-sm">
        {counts.length === 0
          ? "Nothing was understood yet."
          : `Understood: ${counts.map(({ table, rows }) => countWords(rows, ...(COUNTED[table] ?? [table, table]))).join(", ")}.`}
        {answer.isPending && " Reading it again …"}
      </p>
      {view.kind === "tables" && (
        <Kept
          view={view}
          onView={(next) => {
            setAnswers(next.answers);
            onView(next);
          }}
        />
      )}
      <Asked view={view} say={say} />
      <PeopleQuestion view={view} onAnswer={(people) => say({ people })} />
      <Destination
        view={view}
        onAnswer={(changesTo) => {
          const { changesTo: _was, ...rest } = view.answers;
          put(changesTo === undefined ? rest : { ...rest, changesTo });
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
        <p className={`mt-2 text-sm ${answer.isPending ? "invisible" : "adverse"}`}>
          Nothing is taken over until {countWords(view.errors, "error is", "errors are")} mended.
        </p>
      )}
      {answer.error !== null && <Failure error={answer.error} />}
      <Mending view={view} onAnswer={(sheets) => say({ sheets })} />
      <Supplied view={view} />
      <LeftOut view={view} onAnswer={(sheets) => say({ sheets })} />
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
