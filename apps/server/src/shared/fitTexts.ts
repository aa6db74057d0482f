import { fitText, unfitness } from "@chronometra/core";

/** Deeper than anything that is asked for, and less than what takes long to look through. */
const MAX_DEPTH = 64;

/** Where in a value something cannot be kept, and why. */
export interface Unfit {
  readonly path: readonly string[];
  readonly why: string;
}

/** The first text of a value, names of fields included, that cannot be kept; or that it is nested too deep. */
export function findUnfit(value: unknown): Unfit | null {
  // Not by calling itself: what was sent may be nested deeper than calls can be.
  const waiting: { value: object; path: readonly string[] }[] = [{ value: { "": value }, path: [] }];
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    const { value, path } = next;
    if (path.length > MAX_DEPTH) return { path: [], why: `What was sent is nested deeper than ${MAX_DEPTH} levels` };
    for (const [name, each] of Object.entries(value) as [string, unknown][]) {
      const inName = unfitness(name);
      if (inName !== null) return { path: path.slice(1), why: `a name in it ${inName}` };
      if (typeof each === "string") {
        const why = unfitness(each);
        if (why !== null) return { path: [...path, name].slice(1), why };
      } else if (each !== null && typeof each === "object") waiting.push({ value: each, path: [...path, name] });
    }
  }
  return null;
}

/** The longest name of a file that is kept. */
const LONGEST_NAME = 200;

/** The name of a file as a form sends it, whose end tells what it is. */
export const sentName = (sent: string): string =>
  fitText(Buffer.from(sent, "latin1").toString("utf8"))
    .slice(-LONGEST_NAME)
    .replace(/^\p{Surrogate}/u, "");
