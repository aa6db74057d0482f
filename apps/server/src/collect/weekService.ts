import type { Me, WeekView } from "@chronometra/contract";
import { epochDay, formatDate, parseDate, type Plan, weekdayOf } from "@chronometra/core";
import { Between, In, type DataSource } from "typeorm";
import { loadPlan } from "../plan/stored/planStore.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { expectedMinutes } from "../resources/capacity.ts";
import { todayOf } from "../shared/clock.ts";
import { Failure } from "../shared/failure.ts";
import { projectsOf } from "./kept/projectsOf.ts";
import { ReportEntity } from "./kept/reportEntity.ts";
import { sheetsOf } from "./report/sheets.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import type { COLLECT_WORKS } from "./works/collectWorks.ts";

const overPlan = overPlans<typeof COLLECT_WORKS>();

const DAYS = 7;

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
    rows: (
      await Promise.all(
        projects.map(({ id }, i) =>
          overPlan(
            "weekRows",
            { id, plan: plans[i]! },
            {
              project: id,
              person,
              dates,
              reports: reports.flatMap((each) => (each.projectId === id ? [{ ...each }] : [])),
            },
          ),
        ),
      )
    ).flat(),
  };
}
