import {
  overfullDays,
  parseBundle,
  PlanProblems,
  schedulePlan,
  type PlanBundle,
  type Problem,
} from "@chronometra/core";
import type { Loose } from "../match/readTables.ts";

/** A bundle that was checked and laid out, or all that stands against it. */
export interface Checked {
  readonly bundle: PlanBundle | null;
  readonly schedule: ReturnType<typeof schedulePlan> | null;
  readonly problems: readonly Problem[];
}

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

/** A bundle without what problems speak of: the field where that may be left out, else the row. `null` where nothing goes. */
function without(input: Loose, problems: readonly Problem[]): Loose | null {
  let gone = 0;
  const next: Loose = { ...input };
  for (const { table, row, field } of problems) {
    const rows = next[table] as Loose[] | undefined;
    if (!Array.isArray(rows)) continue;
    const numbered = /^#(\d+)$/.exec(row);
    const at = numbered === null ? rows.findIndex((each) => callsOf(each).includes(row)) : Number(numbered[1]) - 1;
    const found = rows[at];
    if (found === undefined) continue;
    const root = field.replace(/[.[].*$/, "");
    const { [root]: said, ...rest } = found;
    const spared = root !== "" && root !== "id" && root !== "name" && said !== undefined && table === "activities";
    gone++;
    next[table] = spared ? rows.map((each, i) => (i === at ? rest : each)) : rows.filter((_each, i) => i !== at);
  }
  return gone === 0 ? null : next;
}

function laidOut(bundle: PlanBundle): Checked {
  try {
    const schedule = schedulePlan(bundle);
    const impossible = overfullDays(bundle);
    return { bundle: impossible.length > 0 ? null : bundle, schedule, problems: impossible };
  } catch (error) {
    if (error instanceof PlanProblems) return { bundle: null, schedule: null, problems: error.problems };
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
    const found = parsed.ok ? laidOut(parsed.bundle) : { bundle: null, schedule: null, problems: parsed.problems };
    if (found.problems.length === 0) return problems.length === 0 ? found : { bundle: null, schedule: null, problems };
    tell(found.problems);
    if (typeof rest !== "object" || rest === null || Array.isArray(rest)) break;
    const less = without(rest as Loose, found.problems);
    if (less === null) break;
    rest = less;
  }
  return { bundle: null, schedule: null, problems };
}
