import { planTree, timeboxOf, type Activity, type Credit, type Plan } from "@chronometra/core";

type Stages = NonNullable<Credit["stages"]>;

/** Something on the board. */
export interface TrackRow {
  readonly activity: Activity;
  /** How it earns; nothing of what earns neither by stages nor by steps. */
  readonly credit: Credit | null;
  readonly path: string;
  /** The name of the timebox in which it stands; nothing where it stands in none. */
  readonly box: string;
}

export interface Track {
  readonly key: string;
  readonly kind: "stages" | "steps" | "other";
  /** The stages that its rows share; `null` for those that earn otherwise. */
  readonly stages: Stages | null;
  readonly rows: readonly TrackRow[];
}

/** Activities that earn by stages, those of the same stages together, those that earn by steps, and all other work. */
export function tracksOf(plan: Plan): Track[] {
  const activities = [...plan.activities.values()];
  const { parked } = planTree(activities);
  const tracks = new Map<string, Omit<Track, "rows"> & { readonly rows: TrackRow[] }>();
  for (const activity of activities) {
    const kind = parked.has(activity.id) ? null : earnsBy(activity);
    if (kind === null) continue;
    const credit = kind === "other" ? null : activity.credit!;
    const stages = kind === "stages" ? [...(credit?.stages ?? [])].sort((a, b) => a.credit - b.credit) : null;
    const key = stages === null ? kind : JSON.stringify(stages);
    const track = tracks.get(key) ?? { key, kind, stages, rows: [] };
    track.rows.push({
      ...{ activity, credit, path: plan.activities.get(activity.parent ?? "")?.name ?? "" },
      box: timeboxOf(plan, activity.id)?.name ?? "",
    });
    tracks.set(key, track);
  }
  return [...tracks.values()].sort((a, b) => KINDS.indexOf(a.kind) - KINDS.indexOf(b.kind));
}

/** How something on the board earns; `null` of what is no work. */
function earnsBy({ credit, kind = "work" }: Activity): Track["kind"] | null {
  if (credit?.rule === "stages" || credit?.rule === "steps") return credit.rule;
  return kind === "work" ? "other" : null;
}

const KINDS: readonly Track["kind"][] = ["stages", "steps", "other"];

/** By what the rows of the board stand together. */
export const BOARD_ORDERS = ["stage", "state", "person", "box", "branch"] as const;
export type BoardOrder = (typeof BOARD_ORDERS)[number];

/** What of the board is shown. */
export interface BoardAsked {
  /** Whose work; of everybody where it is empty. */
  readonly person: string;
  /** The people of a team whose work it is; of everybody where there is none. */
  readonly team: ReadonlySet<string> | null;
  /** Words that the name or the branch has. */
  readonly words: string;
  /** Whether what is finished is shown too. */
  readonly done: boolean;
  readonly by: BoardOrder;
}

export interface TrackPart {
  /** Whose, of which branch or in which timebox, or a state; `null` where rows stand together by their stages alone. */
  readonly name: string | null;
  readonly rows: Track["rows"];
}

/** States of work in the order in which it comes to them. */
const STATES = ["notStarted", "inProgress", "complete"] as const;
export const stateOf = ({ actualStart, actualFinish }: Activity): (typeof STATES)[number] =>
  STATES[actualFinish !== undefined ? 2 : actualStart !== undefined ? 1 : 0]!;

/** Who works on each activity, by name. */
export function workersByActivity({
  assignments,
  people,
}: Plan): ReadonlyMap<string, readonly { id: string; name: string }[]> {
  const found = new Map<string, Map<string, string>>();
  for (const { activity, person } of assignments.values()) {
    const own = found.get(activity) ?? new Map<string, string>();
    found.set(activity, own.set(person, people.get(person)?.name ?? person));
  }
  return new Map([...found].map(([activity, own]) => [activity, [...own].map(([id, name]) => ({ id, name }))]));
}

/**
 * What is asked of the board: the tracks that have any of it, their rows in parts. Work of several people stands with
 * each of them.
 */
export function askedTracks(
  tracks: readonly Track[],
  workers: ReturnType<typeof workersByActivity>,
  { person, team, words, done, by }: BoardAsked,
): { track: Track; parts: TrackPart[] }[] {
  const wanted = words.trim().toLowerCase();
  const isShown = ({ activity, path }: TrackRow): boolean =>
    (done || activity.actualFinish === undefined) &&
    (person === "" || workers.get(activity.id)?.some(({ id }) => id === person) === true) &&
    (team === null || workers.get(activity.id)?.some(({ id }) => team.has(id)) === true) &&
    `${path} ${activity.name}`.toLowerCase().includes(wanted);
  const namesOf = ({ activity, path, box }: TrackRow): string[] => {
    if (by === "branch") return [path];
    if (by === "box") return [box];
    if (by === "state") return [stateOf(activity)];
    const names = (workers.get(activity.id) ?? [])
      .filter(({ id }) => person === "" || id === person)
      .map(({ name }) => name);
    return names.length === 0 ? ["Nobody yet"] : names;
  };
  return tracks.flatMap((track): { track: Track; parts: TrackPart[] }[] => {
    const rows = track.rows.filter(isShown);
    if (rows.length === 0) return [];
    if (by === "stage") return [{ track, parts: [{ name: null, rows }] }];
    const parts = new Map<string, TrackRow[]>();
    for (const row of rows) for (const name of namesOf(row)) parts.set(name, [...(parts.get(name) ?? []), row]);
    const named = [...parts].map(([name, of]) => ({ name, rows: of }));
    const order = (name: string): number => STATES.findIndex((state) => state === name);
    return [
      { track, parts: named.sort((a, b) => order(a.name) - order(b.name) || a.name.localeCompare(b.name, "en")) },
    ];
  });
}

/** The stage so many before or after the one reached; the first where none is; none beyond the ends. */
export function stageBeside({ stages = [], stage }: Credit, by: 1 | -1): string | null {
  const ordered = [...stages].sort((a, b) => a.credit - b.credit);
  const at = ordered.findIndex(({ name }) => name === stage);
  return ordered[at < 0 ? (by === 1 ? 0 : -1) : at + by]?.name ?? null;
}

export const withStage = (credit: Credit, stage: string): Credit => ({ ...credit, stage });

/** A step ticked off on a day, or open again. */
export const withStep = (credit: Credit, at: number, doneOn: string | null): Credit => ({
  ...credit,
  steps: (credit.steps ?? []).map((step, i) => {
    if (i !== at) return step;
    const { doneOn: _was, ...rest } = step;
    return doneOn === null ? rest : { ...rest, doneOn };
  }),
});

/** The percent that steps done have by their weight. */
export function stepsPercent({ steps = [] }: Credit): number {
  const whole = steps.reduce((sum, { weight }) => sum + weight, 0);
  return whole === 0
    ? 0
    : (100 * steps.reduce((sum, { weight, doneOn }) => (doneOn === undefined ? sum : sum + weight), 0)) / whole;
}
