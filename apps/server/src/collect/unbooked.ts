import type { Desk } from "@chronometra/contract";
import { addDays, epochDay, formatDate, meetingsOf, parseDate, type Plan } from "@chronometra/core";
import { Between, In, type DataSource } from "typeorm";
import { overPlans } from "../plan/held/overPlan.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { expectedMinutes } from "../resources/capacity.ts";
import type { COLLECT_WORKS } from "./works/collectWorks.ts";
import { ReportEntity } from "./kept/reportEntity.ts";

const overPlan = overPlans<typeof COLLECT_WORKS>();

const LOOK_BACK_DAYS = 14;

/**
 * Days of the last two weeks that a person works and has booked nothing on, and their meetings that are not booked yet.
 */
export async function unbookedDays(
  database: DataSource,
  person: string,
  today: string,
  plans: readonly { project: ProjectEntity; plan: Plan }[],
): Promise<Pick<Desk, "forgotten" | "meetings">> {
  const now = parseDate(today)!;
  const days = Array.from({ length: LOOK_BACK_DAYS }, (_, i) => epochDay(addDays(now, i - LOOK_BACK_DAYS)));
  const [from, to] = [formatDate(days[0]!), formatDate(now)];
  const reports = await database
    .getRepository(ReportEntity)
    .find({ where: { personId: person, date: Between(from, to), state: In(["submitted", "posted"]) } });
  const booked = new Set(reports.flatMap(({ date, minutes }) => (minutes === null ? [] : [date])));
  for (const { plan } of plans)
    for (const entry of plan.timeEntries.values())
      if (entry.person === person && entry.state === "posted") booked.add(entry.date);
  const began = await Promise.all(
    plans.map(({ project, plan }) => overPlan("firstDay", { id: project.id, plan }, person)),
  );
  const first = began.flatMap((day) => day ?? []).sort()[0];
  const expected = (await expectedMinutes(database, [person], days))(person);
  const forgotten = days
    .map(formatDate)
    .filter((date, i) => expected[i]! > 0 && !booked.has(date) && first !== undefined && date >= first);
  const isBooked = (projectId: string, activityId: string, date: string, name: string): boolean =>
    reports.some(
      (report) =>
        report.projectId === projectId &&
        report.activityId === activityId &&
        report.date === date &&
        report.note.startsWith(name),
    );
  const meetings = plans.flatMap(({ project, plan }) =>
    meetingsOf(plan, person, from, to).flatMap(({ date, meeting: { activity, name, minutes } }) =>
      isBooked(project.id, activity, date, name)
        ? []
        : [{ project: project.id, projectName: plan.project.name, activity, name, date, minutes }],
    ),
  );
  return { forgotten, meetings: meetings.sort((a, b) => (a.date < b.date ? 1 : -1)) };
}
