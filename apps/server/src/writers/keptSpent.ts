import { costOfMinutes, rateBook, type Plan } from "@chronometra/core";
import type { Kept, Writer } from "./writer.ts";
import { cut, deleteRows, insertRows, type Cell } from "./writeRows.ts";

/** Writes time and costs that came or changed since a plan; rates of a person bear on all of their time. */
async function write({ manager, projectId, before, after }: Kept): Promise<void> {
  if (
    before !== null &&
    before.timeEntries === after.timeEntries &&
    before.actualCosts === after.actualCosts &&
    before.people === after.people
  )
    return;
  const rates = rateBook([...after.people.values()]);
  const time = [...after.timeEntries].flatMap(([key, entry]): Cell[][] => {
    const person = after.people.get(entry.person);
    if (
      entry.state !== "posted" ||
      (before !== null && before.timeEntries.get(key) === entry && before.people.get(entry.person) === person)
    )
      return [];
    return [
      [
        projectId,
        "time",
        key,
        entry.activity,
        entry.date,
        entry.person,
        cut(person?.name ?? entry.person, 500),
        person?.role ?? null,
        null,
        entry.minutes,
        costOfMinutes(entry.minutes, rates(entry.person, entry.date)),
        cut(entry.note ?? "", 1000),
      ],
    ];
  });
  const costs = [...after.actualCosts].flatMap(([key, cost]): Cell[][] =>
    before?.actualCosts.get(key) === cost
      ? []
      : [
          [
            projectId,
            "cost",
            key,
            cost.activity,
            cost.date,
            null,
            null,
            null,
            cost.category ?? null,
            0,
            cost.amountMinor,
            cut(cost.reference ?? "", 1000),
          ],
        ],
  );
  const gone = (
    was: Plan["timeEntries"] | Plan["actualCosts"] | undefined,
    now: { has: (key: string) => boolean },
  ): string[] => [...(was?.keys() ?? [])].filter((key) => !now.has(key));
  await deleteRows(
    manager,
    "spent_row",
    projectId,
    "kind = 'time' and entry",
    gone(before?.timeEntries, after.timeEntries),
  );
  await deleteRows(
    manager,
    "spent_row",
    projectId,
    "kind = 'cost' and entry",
    gone(before?.actualCosts, after.actualCosts),
  );
  const columns = ["activity_id", "date", "person_id", "person", "role", "category", "minutes", "amount", "note"];
  await insertRows(manager, "spent_row", ["project_id", "kind", "entry", ...columns], [...time, ...costs], columns);
}

/** Time that counts, and costs. */
export const keptSpent: Writer = { tables: ["spent_row"], write };
