import type { Me, WeekSheet } from "@chronometra/contract";
import { addDays, dateWords, formatDate, parseDate, weekdayOf } from "@chronometra/core";
import { Between, In, type DataSource, type EntityManager } from "typeorm";
import { accountNames } from "../../access/accounts.ts";
import { mayEdit } from "../../project/reach.ts";
import { ProjectEntity } from "../../project/projectEntity.ts";
import { todayOf } from "../../shared/clock.ts";
import { Failure } from "../../shared/failure.ts";
import { WeekSheetEntity } from "../kept/deskEntities.ts";
import { ReportEntity } from "../kept/reportEntity.ts";
import { settleNotices } from "../../tell/notices.ts";
import { weekAsked } from "../../tell/reminders.ts";

const LAST_DAY = 6;

/** The Monday of the week around a day, and its Sunday. */
export function weekAround(date: string): { monday: string; sunday: string } {
  const day = parseDate(date);
  if (day === null) throw new Failure("invalid", `"${date}" is no date; write YYYY-MM-DD.`);
  const monday = addDays(day, -weekdayOf(day));
  return { monday: formatDate(monday), sunday: formatDate(addDays(monday, LAST_DAY)) };
}

const present = (sheet: WeekSheetEntity, names: ReadonlyMap<string, string>): WeekSheet => ({
  state: sheet.state,
  sentAt: sheet.sentAt.toISOString(),
  decidedBy: sheet.decidedBy === null ? null : (names.get(sheet.decidedBy) ?? ""),
  word: sheet.word,
  changedAt: sheet.changedAt?.toISOString() ?? null,
});

/** The sheets of a week, by person. */
export async function sheetsOf(database: DataSource | EntityManager, monday: string): Promise<Map<string, WeekSheet>> {
  const names = await accountNames(database);
  return new Map(
    (await database.getRepository(WeekSheetEntity).findBy({ monday })).map((sheet) => [
      sheet.personId,
      present(sheet, names),
    ]),
  );
}

/** Sends a person's week as whole; one that was approved stays. */
export async function sendSheet(manager: EntityManager, me: Me, person: string, date: string): Promise<void> {
  const { monday } = weekAround(date);
  if (monday > todayOf(me)) throw new Failure("invalid", "This week has not begun; there is nothing to send yet.");
  const sheets = manager.getRepository(WeekSheetEntity);
  if ((await sheets.findOneBy({ personId: person, monday }))?.state === "approved")
    throw new Failure("conflict", "This week has been approved already; correct it by an adjusting entry.");
  await sheets.upsert(
    {
      personId: person,
      monday,
      state: "sent",
      sentAt: new Date(),
      decidedBy: null,
      decidedAt: null,
      word: null,
      changedAt: null,
    },
    ["personId", "monday"],
  );
  await settleNotices(manager, weekAsked(person, monday));
}

/** Keeps with weeks that were sent that they were changed since, until they are sent again or decided. */
export async function noteWeekChange(manager: EntityManager, person: string, dates: readonly string[]): Promise<void> {
  const mondays = [...new Set(dates.map((date) => weekAround(date).monday))];
  if (mondays.length === 0) return;
  await manager
    .getRepository(WeekSheetEntity)
    .update({ personId: person, monday: In(mondays), state: "sent" }, { changedAt: new Date() });
}

/** What is booked in an approved week is a correction, and says why. */
export async function assertWeekOpen(
  manager: EntityManager,
  person: string,
  date: string,
  note: string,
): Promise<void> {
  const { monday } = weekAround(date);
  const approved = await manager
    .getRepository(WeekSheetEntity)
    .existsBy({ personId: person, monday, state: "approved" });
  if (approved && note.trim() === "")
    throw new Failure(
      "invalid",
      `The week of ${dateWords(monday)} is approved and closed; write why you correct it, as "1h forgotten on site", and it becomes an adjusting entry.`,
    );
}

/** Reports of people's weeks that wait; those that this person decides, and who has others left. */
export async function waitingInWeek(
  manager: DataSource | EntityManager,
  me: Me,
  monday: string,
  sunday: string,
  people: readonly string[],
): Promise<{ mine: string[]; others: Set<string> }> {
  const waiting = await manager
    .getRepository(ReportEntity)
    .find({ where: { personId: In([...people]), state: "submitted", date: Between(monday, sunday) } });
  const projects = new Map(
    (
      await manager
        .getRepository(ProjectEntity)
        .findBy({ id: In([...new Set(waiting.map(({ projectId }) => projectId))]) })
    ).map((project) => [project.id, project]),
  );
  const isMine = (report: ReportEntity): boolean => mayEdit(me, projects.get(report.projectId)!);
  return {
    mine: waiting.filter(isMine).map(({ id }) => id),
    others: new Set(waiting.filter((report) => !isMine(report)).map(({ personId }) => personId)),
  };
}
