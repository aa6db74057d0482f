import type { PlanTable } from "./tables.ts";

/** The tables of a plan, its head, what a project keeps besides its plan, and the bundle as a whole. */
export type TableName = "bundle" | "project" | "record" | PlanTable;

/** Something in a plan that cannot be computed with: what is wrong, and where. */
export interface Problem {
  readonly table: TableName;
  /** The row's id, or how the row is called where its table has no ids: `A -> B`, `A / ann`, `1 / A`. */
  readonly row: string;
  /** The field's path within the row, `wish.date` or `exceptions[0].to`; empty where the whole row is meant. */
  readonly field: string;
  /** What is wrong and, where it helps, what to do. */
  readonly message: string;
  /** Of a loop: the activities on it, in walking order, the first again at the end. */
  readonly loop?: readonly string[] | undefined;
  /** All of it in one sentence for people, where names are known. */
  readonly said?: string | undefined;
}

/** Thrown by computations that met bad data; carries every problem found. */
export class PlanProblems extends Error {
  constructor(readonly problems: readonly Problem[]) {
    super(problems.map(formatProblem).join("\n"));
    this.name = "PlanProblems";
  }
}

// Control characters in ids would break "one line a problem".
const oneLine = (text: string): string => JSON.stringify(text).slice(1, -1).replace(/\\"/g, '"').replace(/\\\\/g, "\\");

/** One line that names table, row and field and says what is wrong. */
export function formatProblem(problem: Problem): string {
  const place = [problem.table, problem.row, problem.field].filter((part) => part !== "").map(oneLine);
  return `${place.join(" ")}: ${oneLine(problem.message)}`;
}

/** How a link is called in messages. */
export const linkLabel = (link: { from: string; to: string }): string => `${link.from} -> ${link.to}`;
/** How an assignment, time entry or other row of two ids is called in messages. */
export const pairLabel = (first: string | number, second: string): string => `${first} / ${second}`;
