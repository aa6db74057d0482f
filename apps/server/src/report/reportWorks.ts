import type { ProjectLook, Summary } from "@chronometra/contract";
import { expectedCost, formatDate, openRisks, type PlanBundle } from "@chronometra/core";
import type { HeldPlan } from "../plan/held/heldPlan.ts";
import { chainTo } from "../dates/chain.ts";
import { curveOf, type IssuedPoint } from "../look/lookService.ts";
import { summarise } from "../writers/summarise.ts";

/** What is asked of a plan for a report. */
export interface PeriodAsked {
  readonly issued: readonly IssuedPoint[];
  readonly lockedTo: string | null;
  /**
   * The plan as it was issued with the report before, a plan bundle as text; `null` where there was none, or before
   * plans were kept.
   */
  readonly before: string | null;
  /** The data date of the report before; `null` where there was none. */
  readonly since: string | null;
  /** The last day that "what comes next" looks ahead to. */
  readonly until: string;
}

/** A piece of work as a report names it. */
export interface Named {
  readonly id: string;
  readonly name: string;
  readonly milestone: boolean;
  readonly start: string;
  readonly finish: string;
  /** Working days against the baseline; `null` where none holds it. */
  readonly drift: number | null;
  readonly people: readonly string[];
}

/** What of a plan a report is made of. */
export interface PeriodOfPlan {
  readonly summary: Summary;
  readonly curve: ProjectLook["curve"];
  readonly finished: readonly Named[];
  readonly begun: readonly Named[];
  readonly next: readonly Named[];
  readonly blocked: readonly {
    readonly id: string;
    readonly name: string;
    readonly by: string;
    readonly since: string;
  }[];
  readonly risks: { readonly count: number; readonly expectedMinor: number };
  /** People with unfinished work, by id; those who stand for a role too. */
  readonly workers: readonly string[];
  /** What leads to each deadline that is broken, will be, or is tight: names, the earliest first. */
  readonly chains: Readonly<Record<string, readonly string[]>>;
}

/**
 * Whether something came since the report before: it had not then, whenever it is dated, since much is reported late. Of
 * a plan that was not kept it is told by its date.
 */
function cameSince(
  { before, since }: PeriodAsked,
  of: "actualStart" | "actualFinish",
): (id: string, date: string) => boolean {
  if (since === null) return () => true;
  if (before === null) return (_id, date) => date > since;
  const { activities } = JSON.parse(before) as PlanBundle;
  const had = new Set(activities.flatMap((activity) => (activity[of] === undefined ? [] : [activity.id])));
  return (id) => !had.has(id);
}

function workIn({ plan, whole }: HeldPlan, asked: PeriodAsked) {
  const { bundle, computed, slips } = whole;
  const { dataDate } = bundle.project;
  const names = new Map((bundle.people ?? []).map(({ id, name }) => [id, name]));
  const workers = new Map<string, string[]>();
  for (const { activity, person } of plan.assignments.values())
    workers.set(activity, [...(workers.get(activity) ?? []), names.get(person) ?? person]);
  const [finished, begun, next]: [Named[], Named[], Named[]] = [[], [], []];
  const [hasFinished, hasBegun] = [cameSince(asked, "actualFinish"), cameSince(asked, "actualStart")];
  bundle.activities.forEach((activity, i) => {
    const row = computed.schedule.rows[i];
    const { id, name, kind } = activity;
    if (row == null || kind === "summary" || kind === "levelOfEffort") return;
    const named: Named = {
      id,
      name,
      milestone: kind === "milestone",
      start: formatDate(row.startDay),
      finish: formatDate(row.finishDay),
      drift: slips[i]?.workingDays ?? null,
      people: [...new Set(workers.get(id))],
    };
    if (row.state === "complete") {
      if (activity.dropped !== true && hasFinished(id, named.finish)) finished.push(named);
    } else if (row.state === "inProgress") {
      if (hasBegun(id, named.start)) begun.push(named);
    } else if (named.start <= asked.until && (dataDate === undefined || named.start >= dataDate)) next.push(named);
  });
  return { finished, begun, next: next.sort((a, b) => (a.start < b.start ? -1 : 1)) };
}

function workersIn({ plan, whole: { computed } }: HeldPlan): string[] {
  const { rows, tree } = computed.schedule;
  const found = new Set<string>();
  for (const { activity, person } of plan.assignments.values()) {
    const row = rows[tree.indexOf.get(activity) ?? -1];
    if (row != null && row.state !== "complete") found.add(person);
  }
  return [...found];
}

const ENDANGERED: ReadonlySet<string> = new Set(["breached", "willBreach", "tight"]);

function periodOfPlan(held: HeldPlan, asked: PeriodAsked): PeriodOfPlan {
  const { plan, whole } = held;
  const summary = summarise(whole);
  const risks = openRisks(plan.risks);
  return {
    summary,
    curve: curveOf(whole, asked.issued, asked.lockedTo),
    ...workIn(held, asked),
    blocked: [...plan.blocks].map(([id, { by, since }]) => ({
      id,
      name: plan.activities.get(id)?.name ?? id,
      by,
      since,
    })),
    risks: {
      count: risks.length,
      expectedMinor: risks.reduce((sum, risk) => sum + expectedCost(risk), 0),
    },
    workers: workersIn(held),
    chains: Object.fromEntries(
      summary.deadlines.flatMap(({ id, state }) =>
        ENDANGERED.has(state)
          ? [[id, chainTo(whole, id).flatMap((each) => (each.state === "complete" ? [] : [each.name]))]]
          : [],
      ),
    ),
  };
}

/** What is worked out over a plan for a report. */
export const REPORT_WORKS = { periodOfPlan };
