import type { Me } from "@chronometra/contract";
import { daysWords, leaveOf, type Plan } from "@chronometra/core";
import { IsNull, Not, type DataSource, type EntityManager } from "typeorm";
import { loadPlan } from "../plan/stored/planStore.ts";
import { Failure } from "../shared/failure.ts";
import { projectsOf } from "./kept/projectsOf.ts";
import { ReportEntity } from "./kept/reportEntity.ts";
import { alone, insertSent } from "./report/sendReport.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import type { COLLECT_WORKS } from "./works/collectWorks.ts";

const overPlan = overPlans<typeof COLLECT_WORKS>();

interface Days {
  readonly from: string;
  readonly to: string;
}

/** Leave that waits to be accepted in some project. */
async function waitingLeave(manager: EntityManager, person: string): Promise<Days[]> {
  const rows = await manager
    .getRepository(ReportEntity)
    .findBy({ personId: person, state: "submitted", leaveUntil: Not(IsNull()) });
  return rows.map(({ date, leaveUntil }) => ({ from: date, to: leaveUntil! }));
}

/** Leave that is in a plan. */
function acceptedLeave(plan: Plan, person: string): readonly Days[] {
  const row = plan.people.get(person);
  return row === undefined ? [] : leaveOf(plan, row);
}

const meets = (a: Days, b: Days): boolean => a.from <= b.to && b.from <= a.to;

/** Nobody is away twice on one day: that would be announced, and accepted, twice. */
function assertApart(leave: Days, known: readonly Days[], how: string): void {
  const other = known.find((each) => meets(each, leave));
  if (other === undefined) return;
  throw new Failure(
    "invalid",
    `You are away ${other.from === other.to ? "on" : "from"} ${daysWords(other.from, other.to)} already, ${how}; select other days. Nothing was sent.`,
  );
}

/** Sends leave to every project in which a person has open work; gives the names of the projects. */
export const sendLeave = (
  database: DataSource,
  me: Me,
  leave: { from: string; to: string; note: string },
): Promise<string[]> =>
  alone(database, me, async (manager, person) => {
    assertApart(leave, await waitingLeave(manager, person), "which waits to be accepted: take that back first");
    const names: string[] = [];
    for (const project of await projectsOf(manager, person)) {
      const plan = await loadPlan(manager, project);
      assertApart(leave, acceptedLeave(plan, person), `as accepted in ${project.head.name}`);
      if (!(await overPlan("hasOpenWork", { id: project.id, plan }, person))) continue;
      await insertSent(manager, {
        projectId: project.id,
        activityId: "",
        personId: person,
        date: leave.from,
        leaveUntil: leave.to,
        minutes: null,
        percent: null,
        remainingMinutes: null,
        stage: null,
        note: leave.note.trim(),
      });
      names.push(project.head.name);
    }
    if (names.length === 0)
      throw new Failure("invalid", "You have no open work in any project, so nobody has to know of your leave here.");
    return names;
  });

/** Takes leave back that waits, in every project that it was sent to. */
export const withdrawLeave = (database: DataSource, me: Me, { from, to }: Days): Promise<void> =>
  alone(database, me, async (manager, person) => {
    // In one statement with the state, so that leave decided this moment is not taken back.
    const taken = await manager
      .getRepository(ReportEntity)
      .update({ personId: person, date: from, leaveUntil: to, state: "submitted" }, { state: "withdrawn" });
    if (taken.affected === 0)
      throw new Failure("conflict", "This leave has been decided already; ask the project manager to change it.");
  });
