import {
  overfullDays,
  parseBundle,
  type Parsed,
  PlanProblems,
  schedulePlan,
  type PlanBundle,
  type PlanFile,
  type Problem,
} from "@chronometra/core";
import type { Loose } from "../match/readTables.ts";

/** A bundle that was checked and laid out, or all that stands against it. */
export interface Checked {
  readonly bundle: PlanBundle | null;
  /** The file that says it, where that is of version 2. */
  readonly file: PlanFile | null;
  readonly schedule: ReturnType<typeof schedulePlan> | null;
  readonly problems: readonly Problem[];
}

const NOTHING = { bundle: null, file: null, schedule: null };

/** So often what cannot be is put aside to see what else cannot. */
const ROUNDS = 6;

/** What rows of a table are called in problems, as far as there is one way. */
function callsOf(row: Loose): string[] {
  const { id, from, to, activity, person, number } = row as Record<string, string | number | undefined>;
  return [
    ...(id === undefined ? [] : [String(id)]),
    ...(number === undefined ? [] : [String(number)]),
    `${String(from)} -> ${String(to)}`,
    `${String(activity)} / ${String(person)}`,
  ];
}

/** Where each row of a table stands, by what it is called; the first of several. */
function placesOf(rows: readonly Loose[]): ReadonlyMap<string, number> {
  const at = new Map<string, number>();
  rows.forEach((row, i) => callsOf(row).forEach((call) => at.has(call) || at.set(call, i)));
  return at;
}

/** A table without what problems speak of: the field where that may be left out, else the row. `null` where nothing goes. */
function spared(table: string, rows: readonly Loose[], problems: readonly Problem[]): Loose[] | null {
  const places = placesOf(rows);
  const fields = new Map<number, Set<string>>();
  const gone = new Set<number>();
  for (const { row, field } of problems) {
    const numbered = /^#(\d+)$/.exec(row);
    const at = numbered === null ? places.get(row) : Number(numbered[1]) - 1;
    const found = at === undefined ? undefined : rows[at];
    if (at === undefined || found === undefined) continue;
    const root = field.replace(/[.[].*$/, "");
    const mayGo =
      root !== "" && root !== "id" && root !== "name" && found[root] !== undefined && table === "activities";
    if (mayGo) fields.set(at, (fields.get(at) ?? new Set()).add(root));
    else gone.add(at);
  }
  if (fields.size + gone.size === 0) return null;
  return rows.flatMap((row, i) => {
    if (gone.has(i)) return [];
    const less = fields.get(i);
    return [less === undefined ? row : Object.fromEntries(Object.entries(row).filter(([name]) => !less.has(name)))];
  });
}

/** A bundle without what problems speak of; `null` where nothing of it goes. */
function without(input: Loose, problems: readonly Problem[]): Loose | null {
  const next: Loose = { ...input };
  let changed = false;
  for (const table of new Set(problems.map((problem) => problem.table))) {
    const own = problems.filter((problem) => problem.table === table);
    const rows = input[table];
    const less = Array.isArray(rows) ? spared(table, rows as Loose[], own) : null;
    if (less !== null) [next[table], changed] = [less, true];
  }
  return changed ? next : null;
}

function laidOut({ bundle, file }: Parsed): Checked {
  try {
    const schedule = schedulePlan(bundle);
    const impossible = overfullDays(bundle);
    return { bundle: impossible.length > 0 ? null : bundle, file, schedule, problems: impossible };
  } catch (error) {
    if (error instanceof PlanProblems) return { ...NOTHING, problems: error.problems };
    throw error;
  }
}

/**
 * Checks what is to be a bundle, and lays it out. Everything that stands against it is told at once: what cannot be is
 * put aside, and the rest is checked as well.
 */
export function checkBundle(input: unknown): Checked {
  const problems: Problem[] = [];
  const known = new Set<string>();
  const tell = (found: readonly Problem[]): void => {
    for (const each of found) {
      const key = `${each.table} ${each.row} ${each.field} ${each.message}`;
      if (!known.has(key)) problems.push(each);
      known.add(key);
    }
  };
  let rest: unknown = input;
  for (let round = 0; round < ROUNDS; round++) {
    const parsed = parseBundle(rest);
    const found = parsed.ok ? laidOut(parsed) : { ...NOTHING, problems: parsed.problems };
    if (found.problems.length === 0) return problems.length === 0 ? found : { ...NOTHING, problems };
    tell(found.problems);
    if (typeof rest !== "object" || rest === null || Array.isArray(rest)) break;
    const less = without(rest as Loose, found.problems);
    if (less === null) break;
    rest = less;
  }
  return { ...NOTHING, problems };
}
