import type { DateOrder, NumberStyle, ImportAnswers, ImportView } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { portfolioQuery } from "../project/queries.ts";
import { call } from "../shared/session/api.ts";
import type { Column } from "../shared/table/column.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { DateField } from "../shared/fields/DateField.tsx";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { countWords, dateWords, numberWords } from "../shared/words/words.ts";
import { holds, useMe } from "../shared/session/session.ts";
import { FileChangesView } from "./FileChangesView.tsx";
import { Headings } from "./Headings.tsx";

interface Props {
  readonly view: ImportView;
  readonly onView: (view: ImportView) => void;
}

const ORDER_WORDS: Record<DateOrder, string> = {
  dmy: "day, month, year",
  mdy: "month, day, year",
  ymd: "year, month, day",
};

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

function DateQuestion({
  question,
  answer,
  onAnswer,
}: {
  question: NonNullable<ImportView["dateQuestion"]>;
  answer: DateOrder | undefined;
  onAnswer: (order: DateOrder) => void;
}) {
  return (
    <fieldset className="my-3 border-l-4 border-accent bg-base-200 px-3 py-2">
      <legend className="sr-only">Order of dates</legend>
      <p>Dates such as “{question.sample}” can be read in more than one way. In which order are they written?</p>
      <div className="mt-1 flex flex-wrap gap-4">
        {question.orders.map((order) => (
          <label key={order} className="flex items-center gap-2">
            <input type="radio" name="order" checked={answer === order} onChange={() => onAnswer(order)} />{" "}
            {ORDER_WORDS[order]}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

function NumberQuestion({
  question,
  answer,
  onAnswer,
}: {
  question: NonNullable<ImportView["numberQuestion"]>;
  answer: NumberStyle | undefined;
  onAnswer: (style: NumberStyle) => void;
}) {
  return (
    <fieldset className="my-3 border-l-4 border-accent bg-base-200 px-3 py-2">
      <legend className="sr-only">How numbers are written</legend>
      <p>
        Numbers such as “{question.sample}” can be read in two ways, and nothing in their column tells which. What do
        they mean?
      </p>
      <div className="mt-1 flex flex-wrap gap-4">
        {(["point", "comma"] as const).map((style) => (
          <label key={style} className="flex items-center gap-2">
            <input type="radio" name="numbers" checked={answer === style} onChange={() => onAnswer(style)} />{" "}
            {numberWords(Number(question[style]), 9)}, a {style} before decimals
          </label>
        ))}
      </div>
    </fieldset>
  );
}

function ProjectFields({
  view,
  onAnswer,
}: {
  view: ImportView;
  onAnswer: (project: NonNullable<ImportAnswers["project"]>) => void;
}) {
  const said = { code: "", name: "", start: "", currency: "", ...view.project, ...view.answers.project };
  const fields = [
    { name: "code", words: "Code", width: "w-32" },
    { name: "name", words: "Name", width: "w-72" },
    { name: "currency", words: "Currency", width: "w-20" },
  ] as const;
  return (
    <div className="my-3 flex flex-wrap gap-3">
      {fields.map(({ name, words, width }) => (
        <label key={name} className="flex flex-col text-sm">
          {words}
          <input
            key={said[name]}
            className={`input input-sm ${width}`}
            defaultValue={said[name]}
            onBlur={(event) =>
              event.target.value !== said[name] && onAnswer({ ...view.answers.project, [name]: event.target.value })
            }
          />
        </label>
      ))}
      <div className="flex flex-col text-sm">
        Starts
        <DateField
          label="Project starts"
          small
          value={said.start ?? ""}
          onDate={(start) => onAnswer({ ...view.answers.project, start })}
        />
      </div>
    </div>
  );
}

/** Stands in the choice of programmes for one that is still to be made. */
const NEW_PROGRAMME = "new";

function Drop({ view }: { view: ImportView }) {
  const navigate = useNavigate();
  const drop = useMutation({
    mutationFn: () => call("DELETE /api/imports/:import", { params: { import: view.id } }),
    onSuccess: () => navigate("/import"),
  });
  return (
    <button type="button" className="btn btn-sm" onClick={() => drop.mutate()}>
      Discard
    </button>
  );
}

function Store({ view }: { view: ImportView }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { data: portfolio } = useQuery(portfolioQuery);
  const [programme, setProgramme] = useState("");
  const [newName, setNewName] = useState("");
  const isNew = programme === NEW_PROGRAMME;
  const store = useMutation({
    mutationFn: async () => {
      const id = isNew ? (await call("POST /api/programmes", { body: { name: newName } })).id : programme;
      return call("POST /api/imports/:import/store", {
        params: { import: view.id },
        body: { programme: id === "" ? null : id },
      });
    },
    onSuccess: ({ project }) => {
      toast(`${view.project?.name ?? "The plan"} is stored.`);
      void client.invalidateQueries();
      void navigate(`/projects/${project}/plan`);
    },
  });
  return (
    <>
      <div className="flex flex-wrap items-end gap-2">
        <label className="flex flex-col text-sm">
          Programme
          <select
            className="select select-sm w-64"
            value={programme}
            onChange={(event) => setProgramme(event.target.value)}
          >
            <option value="">outside the programmes</option>
            {portfolio?.programmes.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
            <option value={NEW_PROGRAMME}>a new programme …</option>
          </select>
        </label>
        {isNew && (
          <label className="flex flex-col text-sm">
            Its name
            <input
              className="input input-sm w-56"
              value={newName}
              onChange={(event) => setNewName(event.target.value)}
            />
          </label>
        )}
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!view.storable || store.isPending || (isNew && newName.trim() === "")}
          onClick={() => store.mutate()}
        >
          {store.isPending ? "Storing …" : "Store as a new project"}
        </button>
        <Drop view={view} />
        {!view.storable && (
          <span className="adverse text-sm">
            Nothing is stored until {countWords(view.errors, "error is", "errors are")} mended.
          </span>
        )}
      </div>
      {store.error !== null && <Failure error={store.error} />}
    </>
  );
}

/** Whether the file is a new project, or brings changes to one that is there. */
function Destination({ view, onAnswer }: { view: ImportView; onAnswer: (changesTo: string | undefined) => void }) {
  const { data: portfolio } = useQuery(portfolioQuery);
  const me = useMe();
  const own = portfolio?.projects.filter(({ manager }) => holds(me, "controller") || manager === me.name) ?? [];
  const same = own.find(({ code }) => code === view.project?.code);
  return (
    <label className="mt-2 flex flex-wrap items-center gap-2 text-sm">
      It is
      <select
        className="select select-sm w-80"
        value={view.answers.changesTo ?? ""}
        onChange={(event) => onAnswer(event.target.value === "" ? undefined : event.target.value)}
      >
        <option value="">a new project</option>
        {own.map(({ id, code, name }) => (
          <option key={id} value={id}>
            an edited copy of {code} {name}
          </option>
        ))}
      </select>
      {same !== undefined && view.answers.changesTo === undefined && (
        <span className="undecided">
          Its code is that of {same.name}: is it an edited copy of it?{" "}
          <button type="button" className="cursor-pointer underline" onClick={() => onAnswer(same.id)}>
            Show what it would change
          </button>
        </span>
      )}
    </label>
  );
}

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
          <Store view={view} />
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
