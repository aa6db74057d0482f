import { dateWords } from "../../words/dateWords.ts";
import type { Change } from "../change.ts";
import { fieldWords } from "./pathWords.ts";
import type { Plan } from "../plan.ts";
import type { Problem } from "../problem.ts";
import { NAMED_TABLES } from "../tables.ts";

/** What whoever has the id is called in a plan, or among what changes add to it; the id itself where nobody is. */
function nameOf(plan: Plan, changes: readonly Change[], id: string): string {
  for (const table of NAMED_TABLES) {
    const row = plan[table].get(id);
    if (row !== undefined) return row.name;
  }
  for (const change of changes)
    if (change.type === "addRow" && change.key === id && "name" in change.row) return change.row.name;
  return id;
}

const readably = (text: string): string =>
  text.replace(/\b\d{4}-\d{2}-\d{2}(T\d{2}:\d{2})?\b/g, (date) => dateWords(date));

/**
 * A problem in the words of the screen: rows by their names, dates as they are shown there, and all of it as one
 * sentence in `said`. Of a bundle it is said as the file has it; this is for people who look at a plan.
 */
export function problemInWords(problem: Problem, plan: Plan, changes: readonly Change[]): Problem {
  const name = (id: string): string => nameOf(plan, changes, id);
  const named = problem.message.replace(/"([^"]+)"/g, (quoted, id: string) =>
    name(id) === id ? quoted : `“${name(id)}”`,
  );
  const message =
    problem.loop === undefined
      ? readably(named)
      : `the links form a loop: ${problem.loop.map(name).join(" → ")}; take one of them out`;
  const row = problem.row
    .split(" -> ")
    .map(name)
    .join(" → ")
    .split(" / ")
    .map((id) => readably(name(id)))
    .join(", ");
  const field = /^[A-Za-z]+/.exec(problem.field)?.[0];
  const where = [row, field === undefined ? "" : fieldWords(field)].filter((words) => words !== "").join(", ");
  return { ...problem, row, message, said: where === "" ? message : `${where}: ${message}` };
}
