import { formatDate, loadByWeek } from "@chronometra/core";
import type { HeldPlan } from "../plan/held/heldPlan.ts";
import type { Cell, Writer } from "../plan/held/writer.ts";

const COLUMNS = ["demand", "things", "planned", "posted"] as const;

interface Week {
  readonly key: readonly [person: string, monday: string];
  readonly cells: readonly Cell[];
}

const known = new WeakMap<HeldPlan, ReadonlyMap<string, Week>>();

/** People's weeks of a plan, by person and Monday. */
function weeksOf(held: HeldPlan): ReadonlyMap<string, Week> {
  let weeks = known.get(held);
  if (weeks !== undefined) return weeks;
  const { bundle, computed } = held.whole;
  weeks = new Map(
    [...loadByWeek(bundle, computed.schedule)].flatMap(([person, own]) =>
      [...own].map(([day, week]): [string, Week] => {
        const key = [person, formatDate(day)] as const;
        return [JSON.stringify(key), { key, cells: COLUMNS.map((column) => week[column]) }];
      }),
    ),
  );
  known.set(held, weeks);
  return weeks;
}

/** What people have to do and did, week by week. */
export const keptLoad: Writer = {
  tables: ["load_week"],
  rows: ({ before, after }) => {
    const was: ReadonlyMap<string, Week> = before === null ? new Map() : weeksOf(before);
    const now = weeksOf(after);
    const same = (a: Week | undefined, b: Week): boolean =>
      a !== undefined && a.cells.every((cell, i) => cell === b.cells[i]);
    return [
      {
        table: "load_week",
        key: ["person_id", "monday"],
        columns: COLUMNS,
        gone: {
          by: ["person_id", "monday"],
          keys: [...was].flatMap(([text, { key }]) => (now.has(text) ? [] : [key])),
        },
        rows: [...now].flatMap(([text, week]) => (same(was.get(text), week) ? [] : [[...week.key, ...week.cells]])),
      },
    ];
  },
};
