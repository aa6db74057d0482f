import type { GroupPeriods, GroupPlanned, Groups, Portfolio, ProjectLine, SummedIn } from "@chronometra/contract";
import {
  commonMoney,
  earnedTogether,
  figuresTogether as together,
  withBelow,
  type EarnedSchedule,
  type Figures,
} from "@chronometra/core";
import { commonOf, figuresTogether } from "../../project/together.ts";
import { toSummedIn } from "../../shared/table/SummedNote.tsx";

export const HOUSE = "house";

type Group = Groups["groups"][number];

/** The projects of a group and of those below it. */
export function linesOf({ projects }: Portfolio, groups: readonly Group[], id: string): ProjectLine[] {
  if (id === HOUSE) return [...projects];
  const below = withBelow(groups, [id]);
  return projects.filter(({ programme }) => programme !== null && below.has(programme));
}

/** The groups directly below one, in their order. */
export const childrenOf = (groups: readonly Group[], id: string): Group[] =>
  groups.filter(({ parent }) => parent === (id === HOUSE ? null : id));

/** The groups above one, the outermost first, itself left out. */
export function pathTo(groups: readonly Group[], id: string): Group[] {
  const byId = new Map(groups.map((group) => [group.id, group]));
  const path: Group[] = [];
  let at = byId.get(id)?.parent ?? null;
  for (; at !== null && byId.has(at) && path.length < groups.length; at = byId.get(at)!.parent)
    path.unshift(byId.get(at)!);
  return path;
}

/** What the projects of a group came to together in a period. */
export interface GroupPeriod {
  readonly number: number;
  readonly dataDate: string;
  readonly figures: Figures;
}

/** The periods with what each project said last: one that was not issued, or is closed by then, counts as it was. */
function carriedOn(periods: GroupPeriods): GroupPeriods {
  const last = new Map<string, GroupPeriods[number]["projects"][number]>();
  return periods.map((period) => {
    for (const each of period.projects) last.set(each.project, each);
    return { ...period, projects: [...last.values()] };
  });
}

/**
 * What was issued of a group's projects, period by period, each measure of each converted by itself at one date for
 * all, so that what moves is the work and not the rates; periods that have no sum are left out.
 */
export function periodsTogether(
  periods: GroupPeriods,
  { exchange, on }: Portfolio,
): { readonly periods: GroupPeriod[]; readonly summedIn: SummedIn | null } {
  const all = periods.flatMap(({ projects }) => projects);
  const common = commonMoney(all, exchange, on);
  const summed = carriedOn(periods).flatMap(({ number, dataDate, projects }): GroupPeriod[] => {
    const figures = together(projects, common);
    return figures === null ? [] : [{ number, dataDate, figures }];
  });
  return { periods: summed, summedIn: all.length === 0 ? null : toSummedIn(common, on) };
}

/** Earned schedule of a group, and which of its projects stand at an earlier data date than the others. */
export interface GroupEarned {
  readonly earned: EarnedSchedule;
  /** `YYYY-MM-DD`, the latest data date, which the time passed is counted to. */
  readonly dataDate: string;
  readonly behind: readonly ProjectLine[];
}

const monthNumber = (date: string): number => Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7));

/**
 * What its planned and earned value say in time, all in one money; `null` where nothing is measured, or a rate is
 * missing.
 */
export function earnedOf(
  planned: GroupPlanned,
  lines: readonly ProjectLine[],
  portfolio: Portfolio,
): GroupEarned | null {
  const measured = lines.filter(({ summary }) => summary.figures !== null && summary.dataDate !== null);
  const sums = figuresTogether(measured, portfolio);
  const common = commonOf(measured, portfolio);
  if (sums === null || common.money === null || planned.length === 0) return null;
  const first = planned.reduce((least, each) => (each.first < least ? each.first : least), planned[0]!.first);
  const byMonth: number[] = [];
  for (const { currency, minorDigits, months } of planned)
    for (const { month, minor } of months) {
      const k = monthNumber(month) - monthNumber(first);
      byMonth[k] = (byMonth[k] ?? 0) + common.convert(minor, { currency, minorDigits });
    }
  const dataDate = measured.reduce(
    (latest, { summary }) => (summary.dataDate! > latest ? summary.dataDate! : latest),
    "",
  );
  return {
    earned: earnedTogether({
      first,
      planned: Array.from(byMonth, (each) => each ?? 0),
      ev: sums.figures.ev,
      dataDate,
    }),
    dataDate,
    behind: measured.filter(({ summary }) => summary.dataDate! < dataDate),
  };
}
