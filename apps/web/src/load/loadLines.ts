import type { Load } from "@chronometra/contract";

type Person = Load["people"][number];
type Measure = "capacity" | "demand" | "things" | "planned" | "posted";

export type LoadBy = "person" | "role" | "team";

/** One line of the load table: a person, or all of a role or team together. */
export interface LoadLine extends Record<Measure, readonly number[]> {
  readonly key: string;
  readonly name: string;
  readonly people: readonly Person[];
}

const MEASURES: readonly Measure[] = ["capacity", "demand", "things", "planned", "posted"];

/** People together: each measure is the sum of theirs. Who stands for a role that nobody fills yet has no capacity. */
function together(key: string, name: string, people: readonly Person[], weeks: number): LoadLine {
  const sum = (measure: Measure): number[] =>
    Array.from({ length: weeks }, (_, i) =>
      people.reduce(
        (total, person) => total + (measure === "capacity" && person.placeholder ? 0 : person[measure][i]!),
        0,
      ),
    );
  return {
    key,
    name,
    people,
    ...(Object.fromEntries(MEASURES.map((measure) => [measure, sum(measure)])) as Record<Measure, number[]>),
  };
}

/** The lines of the table by person, role or team; whoever is in several teams is in each. */
export function loadLines({ weeks, people }: Load, by: LoadBy): LoadLine[] {
  if (by === "person") return people.map((person) => together(person.id, person.name, [person], weeks.length));
  const groups = new Map<string, Person[]>();
  for (const person of people) {
    const keys = by === "role" ? [person.role ?? ""] : person.teams.length === 0 ? [""] : person.teams;
    for (const key of keys) groups.set(key, [...(groups.get(key) ?? []), person]);
  }
  return [...groups]
    .map(([key, own]) => together(key, key === "" ? `no ${by}` : key, own, weeks.length))
    .sort((a, b) => (a.key === "" ? 1 : b.key === "" ? -1 : a.name.localeCompare(b.name)));
}

/**
 * How full a week is: `null` where there is nothing to do; over 1 is too much; Infinity where there is no time at all.
 */
export function fullness(demand: number, capacity: number): number | null {
  if (demand === 0) return null;
  return capacity === 0 ? Infinity : demand / capacity;
}

/** Minutes over what there is, and minutes of room, over some weeks. */
export function overAndRoom({ demand, capacity }: Pick<LoadLine, "demand" | "capacity">): {
  over: number;
  room: number;
} {
  let [over, room] = [0, 0];
  demand.forEach((minutes, i) => {
    const left = capacity[i]! - minutes;
    if (left < 0) over -= left;
    else room += left;
  });
  return { over, room };
}

/** Whether there is more to do than time in one of the weeks. */
export const isOver = ({ demand, capacity }: Pick<LoadLine, "demand" | "capacity">): boolean =>
  demand.some((minutes, i) => minutes > capacity[i]!);
