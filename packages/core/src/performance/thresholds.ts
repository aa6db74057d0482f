/**
 * Limits of a portfolio beyond which a project is to be explained; `null` where there is none. Common practice, no
 * source.
 */
export interface Thresholds {
  spiBelow: number | null;
  cpiBelow: number | null;
  /** SPI(t) of earned schedule. */
  spitBelow: number | null;
  /** Working days by which the finish lies after the approved one. */
  driftOver: number | null;
  /** Working days by which it moved since the last issued period. */
  movedOver: number | null;
  /** Percent of BAC by which the estimate at completion exceeds it. */
  overrunOver: number | null;
  /** Whether a deadline that is broken, or will be, is to be explained. */
  deadlines: boolean;
}

export const DEFAULT_THRESHOLDS: Thresholds = {
  spiBelow: 0.9,
  cpiBelow: 0.9,
  spitBelow: null,
  driftOver: null,
  movedOver: null,
  overrunOver: null,
  deadlines: true,
};

/** The rules by their names, in their order. */
export const LIMIT_RULES = [
  "spiBelow",
  "cpiBelow",
  "spitBelow",
  "driftOver",
  "movedOver",
  "overrunOver",
  "deadlines",
] as const satisfies readonly (keyof Thresholds)[];

/** What a project shows, as far as thresholds look at it; `null` is not defined and breaks nothing. */
export interface Standing {
  readonly spi: number | null;
  readonly cpi: number | null;
  readonly spit: number | null;
  readonly drift: number | null;
  readonly moved: number | null;
  readonly bac: number | null;
  readonly eac: number | null;
  /** Deadlines broken, or that will be. */
  readonly lost: number;
}

/** A rule that is broken, with the value that breaks it. */
export interface Broken {
  readonly rule: keyof Thresholds;
  readonly value: number;
  readonly limit: number;
}

/** Which rules a project breaks, in their order. */
export function brokenRules(standing: Standing, thresholds: Thresholds): Broken[] {
  const { bac, eac } = standing;
  const overrun = bac === null || eac === null || bac === 0 ? null : ((eac - bac) * 100) / bac;
  const below = (rule: "spiBelow" | "cpiBelow" | "spitBelow", value: number | null): Broken[] => {
    const least = thresholds[rule];
    return value !== null && least !== null && value < least ? [{ rule, value, limit: least }] : [];
  };
  const over = (rule: "driftOver" | "movedOver" | "overrunOver", value: number | null): Broken[] => {
    const most = thresholds[rule];
    return value !== null && most !== null && value > most ? [{ rule, value, limit: most }] : [];
  };
  return [
    ...below("spiBelow", standing.spi),
    ...below("cpiBelow", standing.cpi),
    ...below("spitBelow", standing.spit),
    ...over("driftOver", standing.drift),
    ...over("movedOver", standing.moved),
    ...over("overrunOver", overrun),
    ...(thresholds.deadlines && standing.lost > 0
      ? [{ rule: "deadlines" as const, value: standing.lost, limit: 0 }]
      : []),
  ];
}

/** A group of projects, as far as limits look at it. */
export interface LimitedGroup {
  readonly id: string;
  readonly parent: string | null;
  /** Its own limits; `null` where it takes them from above. */
  readonly thresholds: Thresholds | null;
}

/**
 * Whose limits hold in a group: its own, else those of the nearest group above that has some; `null` for the house's.
 * @param group the group that a project lies in; `null` of one that lies in none
 */
export function limitedBy<G extends LimitedGroup>(groups: readonly G[], group: string | null): G | null {
  let at = group;
  for (let steps = 0; at !== null && steps <= groups.length; steps++) {
    const found = groups.find(({ id }) => id === at);
    if (found === undefined || found.thresholds !== null) return found ?? null;
    at = found.parent;
  }
  return null;
}

/** The limits that hold in a group, the house's where no group says otherwise. */
export const limitsIn = (groups: readonly LimitedGroup[], house: Thresholds, group: string | null): Thresholds =>
  limitedBy(groups, group)?.thresholds ?? house;
