import { costOfMinutes, rateBook, type Plan } from "@chronometra/core";
import type { Cell, TableRows, Writer } from "../plan/held/writer.ts";
import { cut } from "./activities/cut.ts";

/** Rows of a kind that came or changed since a plan, and keys of those that are gone. */
interface Spent {
  readonly rows: Cell[][];
  readonly gone: Cell[][];
}

const goneFrom = (kind: string, was: ReadonlyMap<string, unknown> | undefined, now: ReadonlyMap<string, unknown>) =>
  [...(was?.keys() ?? [])].filter((key) => !now.has(key)).map((key) => [kind, key]);

/** Time that counts; rates of a person bear on all of it. */
function timeSpent(was: Plan | undefined, now: Plan): Spent {
  if (was?.timeEntries === now.timeEntries && was.people === now.people) return { rows: [], gone: [] };
  const rates = rateBook([...now.people.values()]);
  const rows = [...now.timeEntries].flatMap(([key, entry]): Cell[][] => {
    const person = now.people.get(entry.person);
    const stands = was?.timeEntries.get(key) === entry && was.people.get(entry.person) === person;
    if (entry.state !== "posted" || stands) return [];
    const [name, role] = [cut(person?.name ?? entry.person, 500), person?.role ?? null];
    const cost = costOfMinutes(entry.minutes, rates(entry.person, entry.date));
    const note = cut(entry.note ?? "", 1000);
    return [["time", key, entry.activity, entry.date, entry.person, name, role, null, entry.minutes, cost, note]];
  });
  return { rows, gone: goneFrom("time", was?.timeEntries, now.timeEntries) };
}

function costsSpent(was: Plan | undefined, now: Plan): Spent {
  if (was?.actualCosts === now.actualCosts) return { rows: [], gone: [] };
  const rows = [...now.actualCosts].flatMap(([key, cost]): Cell[][] => {
    if (was?.actualCosts.get(key) === cost) return [];
    const reference = cut(cost.reference ?? "", 1000);
    const { activity, date, category = null, amountMinor } = cost;
    return [["cost", key, activity, date, null, null, null, category, 0, amountMinor, reference]];
  });
  return { rows, gone: goneFrom("cost", was?.actualCosts, now.actualCosts) };
}

/** Time that counts, and costs. */
export const keptSpent: Writer = {
  tables: ["spent_row"],
  rows: ({ before, after: { plan } }): TableRows[] => {
    const [time, costs] = [timeSpent(before?.plan, plan), costsSpent(before?.plan, plan)];
    return [
      {
        table: "spent_row",
        key: ["kind", "entry"],
        columns: ["activity_id", "date", "person_id", "person", "role", "category", "minutes", "amount", "note"],
        gone: { by: ["kind", "entry"], keys: [...time.gone, ...costs.gone] },
        rows: [...time.rows, ...costs.rows],
      },
    ];
  },
};
