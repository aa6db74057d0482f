import type { DateWish } from "@chronometra/contract";
import {
  beginAnew,
  branchAsPlan,
  checkWholePlan,
  dateWords,
  formatDate,
  joined,
  movedTo,
  PlanProblems,
  repeated,
  schedulePlan,
  startForFinish,
  toBundle,
  type Plan,
  type Problem,
  type Repeat,
  type TakenAlong,
} from "@chronometra/core";

/** What is begun with, read. */
export interface ReadPart {
  readonly name: string;
  readonly plan: Plan;
  readonly branch: string | null;
  readonly repeats: readonly Repeat[];
  /** What of it goes along; a template has been made with what there is. */
  readonly along: TakenAlong;
}

export interface Wanted {
  readonly parts: readonly ReadPart[];
  readonly code: string;
  readonly name: string;
  readonly date: DateWish;
  /** The day before which nothing that is to be finished in time may begin. */
  readonly notBefore: string;
}

export type Assembled = { readonly plan: Plan } | { readonly problems: readonly Problem[] } | { readonly why: string };

/** A branch begins when its work began in the plan that it is taken from. */
export function branchAlone(plan: Plan, branch: string): Plan {
  const bundle = toBundle(plan);
  const row = schedulePlan(bundle).rows[bundle.activities.findIndex(({ id }) => id === branch)];
  const alone = branchAsPlan(plan, branch);
  return row == null ? alone : { ...alone, project: { ...alone.project, start: formatDate(row.startDay) } };
}

function partOf({ plan, branch, repeats, along }: ReadPart): Plan {
  const anew = beginAnew(plan, along);
  return repeats.reduce(repeated, branch === null ? anew : branchAlone(anew, branch));
}

function onItsDates(plan: Plan, { date, notBefore }: Wanted): Assembled {
  if ("asIs" in date) return { plan };
  if ("start" in date) return { plan: movedTo(plan, date.start) };
  const found = startForFinish(plan, date.finish, notBefore);
  if ("start" in found) return { plan: movedTo(plan, found.start) };
  return {
    why:
      `It cannot be finished by ${dateWords(date.finish)}: begun on ${dateWords(notBefore)} it is finished on ` +
      `${dateWords(found.earliestFinish)} at the earliest. Say a later finish, or a start of its own.`,
  };
}

/** Puts the plan together that a project is to begin with. */
export function assemble(wanted: Wanted): Assembled {
  const { parts, code, name } = wanted;
  try {
    const plans = parts.map((part) => ({ name: part.name, plan: partOf(part) }));
    const [{ plan: first }] = plans as [(typeof plans)[0], ...typeof plans];
    const { currency, minorDigits = 2 } = first.project;
    if (
      plans.some(({ plan: { project } }) => project.currency !== currency || (project.minorDigits ?? 2) !== minorDigits)
    )
      return { why: "They are in different currencies; put those together that are in one." };
    const whole = plans.length === 1 ? first : joined({ ...first.project, code, name }, plans);
    const dated = onItsDates({ ...whole, project: { ...whole.project, code, name } }, wanted);
    if (!("plan" in dated)) return dated;
    const problems = checkWholePlan(dated.plan);
    return problems.length > 0 ? { problems } : dated;
  } catch (error) {
    if (error instanceof PlanProblems) return { problems: error.problems };
    throw error;
  }
}
