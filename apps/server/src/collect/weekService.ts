import type { Me, WeekView } from "@chronometra/contract";
import { epochDay, formatDate, parseDate, type Plan, schedulePlan, toBundle, weekdayOf } from "@chronometra/core";
import { Between, In, type DataSource } from "typeorm";
import { loadPlan } from "../plan/planStore.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { expectedMinutes } from "../resources/capacity.ts";
import { todayOf } from "../shared/clock.ts";
import { Failure } from "../shared/failure.ts";
import { broughtTime } from "./broughtTime.ts";
import { projectsOf } from "./projectsOf.ts";
import { ReportEntity } from "./reportEntity.ts";
import { sheetsOf } from "./sheets.ts";

const DAYS = 7;

type Row = WeekView["rows"][number];

/** What is booked in a week of one plan, and what can be. */
function rowsOf(
  project: ProjectEntity,
  plan: Plan,
  person: string,
  dates: readonly string[],
  reports: readonly ReportEntity[],
): Row[] {
  const bundle = toBundle(plan);
  const schedule = schedulePlan(bundle);
  const own = new Set([...plan.assignments.values()].flatMap((row) => (row.person === person ? [row.activity] : [])));
  const brought = broughtTime(plan, person).filter(({ date }) => dates.includes(date));
  return bundle.activities.flatMap(({ id, name }, i): Row[] => {
    const said = reports.filter((report) => report.activityId === id && report.minutes !== null);
    const entries = brought.filter(({ activity }) => activity === id);
    const dated = schedule.rows[i] ?? null;
    const open = own.has(id) && dated !== null && dated.state !== "complete";
    if (!open && said.length === 0 && entries.length === 0) return [];
    const cells = dates.map((date) => {
      const of = said.filter((report) => report.date === date);
      const sum = (state: ReportEntity["state"]): number =>
        of.filter((report) => report.state === state).reduce((total, { minutes }) => total + minutes!, 0);
      const came = entries.filter((entry) => entry.date === date);
      return {
        posted: sum("posted") + came.reduce((total, { minutes }) => total + minutes, 0),
        waiting: sum("submitted"),
        returned: sum("returned"),
        notes: [...of.map(({ note }) => note), ...came.map(({ note }) => note ?? "")].filter((note) => note !== ""),
      };
    });
    return [{ project: project.id, projectName: plan.project.name, activity: id, name, open, cells }];
  });
}

/** A person's week around a day: their open work and whatever they booked in it, day by day. */
export async function weekOf(database: DataSource, me: Me, around: string): Promise<WeekView> {
  const { person } = me;
  const day = parseDate(around);
  if (day === null) throw new Failure("invalid", `"${around}" is no date; write YYYY-MM-DD.`);
  const monday = day - weekdayOf(day);
  const days = Array.from({ length: DAYS }, (_, i) => epochDay(monday + i));
  const dates = days.map(formatDate);
  if (person === null)
    return {
      from: dates[0]!,
      today: todayOf(me),
      sheet: null,
      days: dates.map((date) => ({ date, expectedMinutes: 0 })),
      rows: [],
    };
  const reports = await database.getRepository(ReportEntity).find({
    where: {
      personId: person,
      date: Between(dates[0]!, dates.at(-1)!),
      state: In(["submitted", "posted", "returned"]),
    },
    order: { sentAt: "ASC" },
  });
  const projects = await projectsOf(database, person);
  const missing = [...new Set(reports.map(({ projectId }) => projectId))].filter((id) =>
    projects.every((project) => project.id !== id),
  );
  if (missing.length > 0) projects.push(...(await database.getRepository(ProjectEntity).findBy({ id: In(missing) })));
  const plans: Plan[] = [];
  for (const project of projects) plans.push(await loadPlan(database.manager, project));
  const expected = (await expectedMinutes(database, [person], days))(person);
  return {
    from: dates[0]!,
    today: todayOf(me),
    sheet: (await sheetsOf(database, dates[0]!)).get(person) ?? null,
    days: dates.map((date, i) => ({ date, expectedMinutes: expected[i]! })),
    rows: projects.flatMap((project, i) =>
      rowsOf(
        project,
        plans[i]!,
        person,
        dates,
        reports.filter(({ projectId }) => projectId === project.id),
      ),
    ),
  };
}
