import type { Endings, Me, ReportsEffect, WindowsHeld } from "@chronometra/contract";
import { type Plan } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { storeChanges, type ChangeOrder } from "../../plan/changeService.ts";
import { overPlans, type PlanOf } from "../../plan/held/overPlan.ts";
import { loadPlan } from "../../plan/stored/planStore.ts";
import { writeProjects } from "../../plan/writeProjects.ts";
import { assertMayEdit, findProject } from "../../project/projectAccess.ts";
import { lockedTo } from "../../project/locks.ts";
import { effectOn } from "../../plan/prepare.ts";
import { Failure } from "../../shared/failure.ts";
import type { Post } from "../../tell/post.ts";
import { tellNext } from "./tellNext.ts";
import { acceptedBefore } from "../kept/acceptedBefore.ts";
import { ReportEntity } from "../kept/reportEntity.ts";
import type { Outcome } from "../works/outcome.ts";
import type { COLLECT_WORKS } from "../works/collectWorks.ts";
import { tellReturned } from "./tellReports.ts";

const overPlan = overPlans<typeof COLLECT_WORKS>();

/** Reports of those ids that still wait, by the days they report on; a failure where one has been decided. */
async function waitingReports(manager: EntityManager, ids: readonly string[], lock: boolean): Promise<ReportEntity[]> {
  const unique = [...new Set(ids)];
  const found = await manager.getRepository(ReportEntity).find({
    where: { id: In(unique) },
    order: { date: "ASC", sentAt: "ASC" },
    ...(lock ? { lock: { mode: "pessimistic_write" as const } } : {}),
  });
  if (found.length < unique.length)
    throw new Failure("notFound", "A report is not there any more; load the page again.");
  if (found.some(({ state }) => state !== "submitted"))
    throw new Failure("conflict", "A report among these has been decided or withdrawn already; load the page again.");
  return found;
}

/** How reports are accepted: which windows are held, and what a 100% ends. */
interface Deciding {
  readonly hold?: WindowsHeld | undefined;
  readonly endings?: Endings | undefined;
}

/** What accepting a project's reports comes to. Throws PlanProblems where the plan would not hold. */
async function outcomeOf(
  manager: EntityManager,
  { id, plan }: PlanOf,
  reports: readonly ReportEntity[],
  { hold = [], endings = {} }: Deciding,
): Promise<Outcome> {
  return overPlan(
    "outcome",
    { id, plan },
    {
      reports: reports.map((report) => ({ ...report })),
      closedTo: await lockedTo(manager, id),
      earlier: await acceptedBefore(manager, id, reports),
      endings: new Map(Object.entries(endings)),
      hold: hold.flatMap(({ project, activity }) => (project === id ? [activity] : [])),
    },
  );
}

const byProject = (reports: readonly ReportEntity[]): [string, ReportEntity[]][] =>
  [...new Set(reports.map((report) => report.projectId))]
    .sort()
    .map((id) => [id, reports.filter((report) => report.projectId === id)]);

/** What accepting reports would move in each project, nothing stored. */
export async function effectOfReports(
  database: DataSource,
  me: Me,
  ids: readonly string[],
  deciding: Deciding,
): Promise<ReportsEffect> {
  const effects: ReportsEffect = [];
  for (const [projectId, reports] of byProject(await waitingReports(database.manager, ids, false))) {
    const project = await findProject(database, projectId);
    assertMayEdit(me, project);
    const of = { id: projectId, plan: await loadPlan(database.manager, project) };
    const { changes, windows, asked, assumed } = await outcomeOf(database.manager, of, reports, deciding);
    effects.push({
      project: projectId,
      projectName: project.head.name,
      effect: await effectOn(of, changes),
      windows: windows.map((window) => ({ ...window, load: [...window.load] })),
      asked: asked.map((one) => ({ ...one, others: [...one.others] })),
      assumed: assumed.map((one) => ({ ...one, people: [...one.people] })),
    });
  }
  return effects;
}

/** Refuses to accept where something was to be held that cannot be, or where it was not said what a 100% ends. */
function assertDecided({ windows, asked }: Outcome): void {
  const lost = windows.filter(({ outcome }) => outcome === "lost");
  if (lost.length > 0)
    throw new Failure(
      "invalid",
      lost.map(({ name, why }) => `The window of "${name}" cannot be held: ${why}.`).join(" "),
    );
  const open = asked.filter(({ answer }) => answer === null);
  if (open.length > 0)
    throw new Failure(
      "invalid",
      open
        .map(
          ({ name, person, others }) =>
            `${others.map((other) => other.person).join(", ")} still ${others.length === 1 ? "has" : "have"} hours on "${name}": say whether the 100% of ${person} finishes all of it, or only their own work.`,
        )
        .join(" "),
    );
}

/** What a report is on; leave is on no activity. */
const nameOf = ({ activities, project }: Plan, { activityId }: ReportEntity): string =>
  activities.get(activityId)?.name ?? project.name;

/** What accepting some reports stores, and how a project's history tells it. */
function orderOf(reports: readonly ReportEntity[], { changes, windows }: Outcome): ChangeOrder {
  const held = windows.filter(({ outcome }) => outcome === "held").length;
  const holding = held === 0 ? "" : held === 1 ? ", a window held" : `, ${held} windows held`;
  const label = `Accepted ${reports.length === 1 ? "a report" : `${reports.length} reports`}${holding}`;
  return { changes, label, through: "reports" };
}

/**
 * Accepts or returns reports, all or none; accepted time is posted, the activities' progress with it, and whoever comes
 * next is told.
 */
export async function decideReports(
  database: DataSource,
  post: Post,
  me: Me,
  ids: readonly string[],
  {
    decision,
    word,
    ...deciding
  }: Deciding & { readonly decision: "accept" | "return"; readonly word?: string | undefined },
): Promise<void> {
  const looked = byProject(await waitingReports(database.manager, ids, false));
  return writeProjects(
    database,
    me,
    looked.map(([project]) => project),
    async (writing) => {
      const { manager } = writing;
      const reports = await waitingReports(manager, ids, true);
      const decided: { before: Plan; plan: Plan }[] = [];
      const returned: { report: ReportEntity; name: string }[] = [];
      for (const [projectId, own] of byProject(reports)) {
        const project = await writing.editable(projectId);
        const before = await writing.plan(project);
        if (decision === "return") {
          returned.push(...own.map((report) => ({ report, name: nameOf(before, report) })));
          continue;
        }
        const outcome = await outcomeOf(manager, { id: projectId, plan: before }, own, deciding);
        assertDecided(outcome);
        if (outcome.changes.length === 0) continue;
        decided.push({ before, plan: (await storeChanges(writing, project, orderOf(own, outcome))).plan });
      }
      await manager
        .getRepository(ReportEntity)
        .update(
          { id: In(reports.map(({ id }) => id)) },
          { state: decision === "return" ? "returned" : "posted", decidedBy: me.id, word: word ?? null },
        );
      await tellNext(manager, post, decided);
      await tellReturned(manager, post, me, returned, word ?? null);
    },
    async (plan, { id }) => {
      const own = looked.find(([project]) => project === id)![1];
      return decision === "return" ? [] : (await outcomeOf(database.manager, { id, plan }, own, deciding)).changes;
    },
  );
}
