import type { FileChanges, ImportView } from "@chronometra/contract";
import { fieldWords } from "@chronometra/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState, type ReactNode } from "react";
import { useNavigate } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { undoToast } from "../shared/dialogs/undoToast.ts";
import { call } from "../shared/session/api.ts";
import type { Column } from "../shared/table/column.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { EffectView } from "../shared/dialogs/EffectView.tsx";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { valueWords } from "../plan/valueWords.ts";
import { countWords, momentWords } from "../shared/words/words.ts";
import { fileChangesQuery } from "./queries.ts";

type Row = FileChanges["rows"][number];

const WHAT: Record<Row["what"], string> = { added: "new", removed: "removed", changed: "changed" };
const TABLES: Record<string, string> = {
  project: "Project",
  activities: "Activities",
  links: "Links",
  assignments: "People on activities",
  costs: "Costs",
  calendars: "Calendars",
  people: "People",
};

/** Where a field of a file is called otherwise than in the plan. */
const fieldName = (field: string): string =>
  field === "parent" ? "lies below" : field === "place" ? "stands" : fieldWords(field);

const valueIn = (table: string, field: string, value: unknown): string => valueWords(`${table}//${field}`, value);

function fieldText({ table, what }: Row, { field, from, to, then }: Row["fields"][number]): string {
  const name = fieldName(field);
  if (what === "added") return `${name} ${valueIn(table, field, to)}`;
  const was = then === undefined ? "" : `was ${valueIn(table, field, then)}, now `;
  return `${name}: ${was}${valueIn(table, field, from)} → ${valueIn(table, field, to)}`;
}

function fieldsText(row: Row): string {
  const words = row.what === "removed" ? "" : row.fields.map((field) => fieldText(row, field)).join("; ");
  if (!row.both || row.what === "changed") return words;
  return [row.what === "added" ? "removed from the plan meanwhile" : "changed in the plan meanwhile", words]
    .filter((each) => each !== "")
    .join("; ");
}

const ORDER = Object.keys(TABLES);

/** Rows as one reads a plan: activities first and from the top, though they are taken over from the bottom. */
function inReadingOrder(rows: readonly Row[]): Row[] {
  const placed = rows.map((row, i) => ({
    row,
    rank: ORDER.indexOf(row.table),
    place: row.table === "activities" ? -i : i,
  }));
  return placed.sort((a, b) => a.rank - b.rank || a.place - b.place).map(({ row }) => row);
}

/** What the ticked rows would move, once it has been asked for. */
function useEffectOf(id: string, revision: number, keys: readonly string[]) {
  const asked = keys.join("\n");
  const preview = useMutation({
    mutationFn: async () => ({
      asked,
      effect: await call("POST /api/imports/:import/changes/effect", {
        params: { import: id },
        body: { revision, keys: [...keys] },
      }),
    }),
  });
  return { preview, effect: preview.data?.asked === asked ? preview.data.effect : null };
}

/**
 * What both changed is left until someone says otherwise; so is all of a file of which nobody knows what it was made
 * from.
 */
const leftAtFirst = ({ madeFrom, rows }: FileChanges): Set<string> =>
  new Set(rows.flatMap(({ key, both }) => (both || madeFrom === null ? [key] : [])));

/** What the file was compared with, and what that means for what is ticked. */
function Compared({ changes: { madeFrom, revision, rows } }: { changes: FileChanges }) {
  const both = rows.filter((row) => row.both).length;
  if (madeFrom === null)
    return (
      <p className="undecided text-sm">
        The file does not say which revision of the plan it was made from, or that is not known here any more. It is
        compared with the plan as it is now: what was changed in the plan since would be put back. Nothing is selected;
        select what the file is to change.
      </p>
    );
  return (
    <p className="muted text-sm">
      The file was made from revision {madeFrom.revision} of {momentWords(madeFrom.at)}
      {madeFrom.revision === revision
        ? ", and the plan is still at it."
        : `; the plan is at revision ${revision}. What only the plan changed since stays.`}
      {both > 0 &&
        ` ${countWords(both, "row was", "rows were")} changed in both, and ${both === 1 ? "is" : "are"} not selected.`}
    </p>
  );
}

/** Takes the rows over that are ticked, and goes to the plan. */
function useTaking(view: ImportView, revision: number, keys: readonly string[]) {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: () =>
      call("POST /api/imports/:import/changes", {
        params: { import: view.id },
        body: { revision, keys: [...keys] },
      }),
    onSuccess: ({ project, revision: stored }) => {
      undoToast(client, {
        revisions: [{ project, revision: stored }],
        words: `${countWords(keys.length, "row", "rows")} of ${view.fileName} taken over.`,
      });
      void client.invalidateQueries();
      void navigate(`/projects/${project}/plan`);
    },
    onError: (error) => {
      toast.error(error.message);
      void client.invalidateQueries({ queryKey: fileChangesQuery(view.id).queryKey });
    },
  });
}

/** A row of the file with its tick. */
const columnsOf = (left: ReadonlySet<string>, tick: (key: string, on: boolean) => void): readonly Column<Row>[] => [
  {
    id: "take",
    head: "Take",
    value: ({ key }) => (left.has(key) ? "no" : "yes"),
    show: ({ key, name }) => (
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        aria-label={`Take over ${name}`}
        checked={!left.has(key)}
        onChange={(event) => tick(key, event.target.checked)}
      />
    ),
  },
  { id: "what", head: "What", value: ({ what, both }) => `${WHAT[what]}${both ? ", in both" : ""}` },
  { id: "name", head: "Row", value: ({ name }) => name },
  { id: "fields", head: "From the plan → to the file", wraps: true, value: fieldsText },
];

function Ticked({ view, changes, children }: { view: ImportView; changes: FileChanges; children: ReactNode }) {
  const [left, setLeft] = useState<ReadonlySet<string>>(() => leftAtFirst(changes));
  const keys = changes.rows.flatMap(({ key }) => (left.has(key) ? [] : [key]));
  const rows = useMemo(() => inReadingOrder(changes.rows), [changes.rows]);
  const { preview, effect } = useEffectOf(view.id, changes.revision, keys);
  const take = useTaking(view, changes.revision, keys);
  const tick = (key: string, on: boolean): void =>
    setLeft((former) => new Set(on ? [...former].filter((each) => each !== key) : [...former, key]));
  return (
    <section className="pt-3">
      <h2 className="text-base">
        What it would change in {changes.project.code} {changes.project.name}
      </h2>
      <Compared changes={changes} />
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <button
          type="button"
          className="btn btn-sm"
          disabled={keys.length === 0 || preview.isPending}
          onClick={() => preview.mutate()}
        >
          {preview.isPending ? "Calculating …" : "Show what moves"}
        </button>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={keys.length === 0 || take.isPending}
          onClick={() => take.mutate()}
        >
          {take.isPending ? "Taking over …" : `Take over ${countWords(keys.length, "row", "rows")}`}
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={() => setLeft(new Set())}>
          Select all
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          onClick={() => setLeft(new Set(changes.rows.map(({ key }) => key)))}
        >
          Select none
        </button>
        {children}
      </div>
      {preview.error !== null && <Failure error={preview.error} />}
      {effect !== null && (
        <div
          className="my-2 max-h-72 max-w-xl overflow-auto border rule p-3"
          tabIndex={0}
          role="region"
          aria-label="What would move"
        >
          <EffectView effect={effect} />
        </div>
      )}
      <DataTable
        name="Changes of the file"
        rows={rows}
        columns={columnsOf(left, tick)}
        rowKey={({ key }) => key}
        group={({ table }) => TABLES[table] ?? table}
        empty={`The file says what the plan says; there is nothing to take over. Time, actual costs and baselines come by reports and approvals, not by a file.`}
      />
    </section>
  );
}

/** What a file would change in a plan that is there, row by row to tick. */
export function FileChangesView({ view, children }: { view: ImportView; children: ReactNode }) {
  const query = useQuery(fileChangesQuery(view.id));
  return (
    <Loaded query={query}>
      {(changes) => (
        <Ticked key={changes.revision} view={view} changes={changes}>
          {children}
        </Ticked>
      )}
    </Loaded>
  );
}
