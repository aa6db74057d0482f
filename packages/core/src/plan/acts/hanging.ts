import type { Change } from "../change.ts";
import type { Plan } from "../plan.ts";
import { EDITED_TABLES, hangingOn, type HandTable, type Hanging } from "../tables.ts";

type Row = Readonly<Record<string, unknown>>;

/** What becomes of one row when some of what it names go: it goes too, loses them, or stays as it is. */
function hangingChanges(table: HandTable, key: string, row: Row, hanging: Hanging, isGone: (id: string) => boolean) {
  const removed = [{ type: "removeRow", table, key }] as const;
  if (hanging.by === "key") return isGone(key) ? removed : [];
  if (hanging.by === "field") return isGone(row[hanging.field] as string) ? removed : [];
  const { list, id, least } = hanging;
  const idOf = (each: unknown): string => (id === undefined ? each : (each as Row)[id]) as string;
  const all = row[list] as readonly unknown[];
  const left = all.filter((each) => !isGone(idOf(each)));
  if (left.length === all.length) return [];
  if (left.length < least) return removed;
  const isEdited = EDITED_TABLES.some((each) => each === table);
  return isEdited
    ? [{ type: "editRow", table, key, set: { [list]: left } }]
    : [...removed, { type: "addRow", table, key, row: { ...row, [list]: left } }];
}

function hanging(plan: Plan, what: "activity" | "person", isGone: (id: string) => boolean): Change[] {
  const changed = new Map<string, Change[]>();
  for (const [table, how] of hangingOn(what))
    for (const [key, row] of plan[table] as ReadonlyMap<string, unknown>) {
      // What hangs on two that go, goes once.
      const changes = hangingChanges(table, key, row as Row, how, isGone) as Change[];
      if (changes.length > 0) changed.set(`${table}/${key}`, changes);
    }
  return [...changed.values()].flat();
}

/** Changes that take out what a plan's own tables say of activities that go. */
export const ownRowsOf = (plan: Plan, isGone: ReadonlySet<string>): Change[] => [
  ...[...plan.ownValues].flatMap(([activity, values]) =>
    isGone.has(activity)
      ? Object.keys(values).map((field): Change => ({ type: "setOwnValue", activity, field, value: null }))
      : [],
  ),
  ...hanging(plan, "activity", (id) => isGone.has(id)),
];

/** Changes that take a person out of what names them besides their work, such as meetings; a meeting of nobody goes. */
export const ownRowsWithout = (plan: Plan, person: string): Change[] => hanging(plan, "person", (id) => id === person);
