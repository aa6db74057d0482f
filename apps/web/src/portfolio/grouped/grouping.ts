import type { Portfolio, ProjectLine } from "@chronometra/contract";
import { ownValueOrder, ownValueWords } from "../../project/ownValues.ts";
import { inTreeOrder, pathOfProgramme } from "../../project/programmeTree.ts";

/** At most so many levels. */
export const MOST_LEVELS = 3;
/** Not grouped at all. */
export const NO_GROUP = "none";
const BY_PROGRAMME = "programme";

/** By what projects can be grouped, with what that is called. */
export const groupings = (fields: Portfolio["fields"]): readonly (readonly [by: string, name: string])[] => [
  [BY_PROGRAMME, "programme"],
  ["manager", "manager"],
  ["stage", "stage"],
  ...fields.map(({ id, name }) => [`own-${id}`, name.toLowerCase()] as const),
];

/** The levels of an address, the outermost first: `programme` where nothing is said, none for `none`. */
export function levelsIn(text: string | null, fields: Portfolio["fields"]): string[] {
  if (text === NO_GROUP) return [];
  const known = new Set(groupings(fields).map(([by]) => by));
  const levels = [...new Set((text ?? "").split(",").filter((by) => known.has(by)))].slice(0, MOST_LEVELS);
  return levels.length === 0 ? [BY_PROGRAMME] : levels;
}

/** The same as it stands in an address; `null` for what holds without it. */
export const levelsText = (levels: readonly string[]): string | null =>
  levels.length === 0 ? NO_GROUP : levels.length === 1 && levels[0] === BY_PROGRAMME ? null : levels.join(",");

/** The names of one level's groups that a project stands in, the outermost first. */
function namesBy(portfolio: Portfolio, by: string): (line: ProjectLine) => readonly string[] {
  if (by === "manager") return ({ manager }) => [manager];
  if (by === "stage") return ({ stage }) => [stage ?? "no stage"];
  const field = portfolio.fields.find(({ id }) => `own-${id}` === by);
  if (field !== undefined)
    return (line) => [ownValueWords(field, line, portfolio.named) || `no ${field.name.toLowerCase()}`];
  return ({ programme }) => pathOfProgramme(portfolio.programmes, programme);
}

const compareOrder = (a: string | number | null, b: string | number | null): number => {
  if (a === null || b === null) return Number(a === null) - Number(b === null);
  return typeof a === "number" && typeof b === "number" ? a - b : String(a).localeCompare(String(b));
};

/** The names of the groups that a project stands in, over all levels; nothing where there are none. */
export function groupNames(
  portfolio: Portfolio,
  levels: readonly string[],
): ((line: ProjectLine) => readonly string[]) | undefined {
  if (levels.length === 0) return undefined;
  const all = levels.map((by) => namesBy(portfolio, by));
  return (line) => all.flatMap((names) => names(line));
}

/**
 * Projects so that those of one group come together: programmes in the order of their tree, choices and numbers in
 * theirs, others by their names; what says nothing comes last.
 */
export function inGroupOrder(
  portfolio: Portfolio,
  rows: readonly ProjectLine[],
  levels: readonly string[],
): readonly ProjectLine[] {
  if (levels.length === 0) return rows;
  const place = new Map(inTreeOrder(portfolio.programmes).map(({ programme: { id } }, i) => [id, i]));
  const compare = levels.map((by): ((a: ProjectLine, b: ProjectLine) => number) => {
    if (by === BY_PROGRAMME) {
      const at = ({ programme }: ProjectLine): number => place.get(programme ?? "") ?? place.size;
      return (a, b) => at(a) - at(b);
    }
    const field = portfolio.fields.find(({ id }) => `own-${id}` === by);
    if (field !== undefined) {
      const at = (line: ProjectLine) => ownValueOrder(field, line, portfolio.named);
      return (a, b) => compareOrder(at(a), at(b));
    }
    const names = namesBy(portfolio, by);
    return (a, b) => String(names(a)).localeCompare(String(names(b)));
  });
  return [...rows].sort((a, b) => compare.reduce((sign, by) => sign || by(a, b), 0));
}
