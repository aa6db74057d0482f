import type { GroupPeriods, Groups, Portfolio, ProjectLine, SummedIn } from "@chronometra/contract";
import { commonMoney, figuresTogether as together, withBelow, type Figures } from "@chronometra/core";
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
