import { formatDate, loadByWeek, type Plan } from "@chronometra/core";
import { insertRows, parts, type Cell } from "./writeRows.ts";
import type { Kept, Writer } from "./writer.ts";

/** Weeks as texts by person and Monday, of plans that this server wrote itself. */
const keptOf = new WeakMap<Plan, ReadonlyMap<string, string>>();

const LOAD_COLUMNS = ["demand", "things", "planned", "posted"] as const;

/** Writes people's weeks that differ from those that are kept. */
async function write({ manager, projectId, before, after, whole: { bundle, computed } }: Kept): Promise<void> {
  const text = (week: Record<(typeof LOAD_COLUMNS)[number], number>): string =>
    LOAD_COLUMNS.map((column) => week[column]).join(" ");
  const known =
    (before === null ? undefined : keptOf.get(before)) ??
    new Map(
      (
        (await manager.query(
          "select person_id, monday, demand, things, planned, posted from load_week where project_id = ?",
          [projectId],
        )) as ({ person_id: string; monday: string } & Record<(typeof LOAD_COLUMNS)[number], number>)[]
      ).map((row) => [`${row.monday} ${row.person_id}`, text(row)]),
    );
  const load = new Map<string, string>();
  const changed: Cell[][] = [];
  for (const [person, weeks] of loadByWeek(bundle, computed.schedule)) {
    for (const [day, week] of weeks) {
      const monday = formatDate(day);
      const key = `${monday} ${person}`;
      load.set(key, text(week));
      if (known.get(key) !== load.get(key))
        changed.push([projectId, person, monday, ...LOAD_COLUMNS.map((column) => week[column])]);
    }
  }
  const gone = [...known.keys()].filter((key) => !load.has(key));
  for (const part of parts(gone)) {
    await manager.query(
      `delete from load_week where project_id = ? and (monday, person_id) in (${part.map(() => "(?, ?)").join(", ")})`,
      [projectId, ...part.flatMap((key) => [key.slice(0, 10), key.slice(11)])],
    );
  }
  await insertRows(manager, "load_week", ["project_id", "person_id", "monday", ...LOAD_COLUMNS], changed, LOAD_COLUMNS);
  keptOf.set(after, load);
}

/** What people have to do and did, week by week. */
export const keptLoad: Writer = { tables: ["load_week"], write };
