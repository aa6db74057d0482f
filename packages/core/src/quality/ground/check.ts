import type { Ground } from "./ground.ts";

/** What of an activity an offence is mended in. */
export const MEND_PLACES = [
  "links",
  "length",
  "left",
  "began",
  "ended",
  "wish",
  "owner",
  "people",
  "progress",
] as const;
export type MendPlace = (typeof MEND_PLACES)[number];

/** An activity that a check or a finding names, with the value that offends. */
export interface Offence {
  /** Position in the plan's activities. */
  readonly at: number;
  /** Where it is mended, where that is elsewhere than what else the check or finding names. */
  readonly mend?: MendPlace | undefined;
  /** The value in words: `52 d float`, `starts 2 d before Dig is done`. */
  words(): string;
}

/** What offends, with how to say it: a large plan has tens of thousands, most of which are only counted. */
class Told<T> implements Offence {
  constructor(
    readonly at: number,
    private readonly what: T,
    private readonly say: (what: T) => string,
    readonly mend?: MendPlace,
  ) {}

  words(): string {
    return this.say(this.what);
  }
}

/** What offends of an activity; its words are made when they are read. */
export const offence = <T>(at: number, what: T, say: (what: T) => string, mend?: MendPlace): Offence =>
  new Told(at, what, say, mend);

/** All of these offend. */
export const offences = <T extends { readonly at: number }>(
  things: readonly T[],
  say: (thing: T) => string,
): Offence[] => things.map((thing) => new Told(thing.at, thing, say));

/** What offends in the plan's order: in what order it is found depends on how the plan came about. */
export const inOrder = (found: readonly Offence[]): readonly Offence[] => found.toSorted((a, b) => a.at - b.at);

/** What offends, to be told of when it is asked for: whenever a plan changes all is counted, and seldom shown. */
export interface Offending {
  readonly count: number;
  readonly tell: () => readonly Offence[];
}

/** All of these offend; each is told of when it is asked for. */
export const offending = <T>(things: readonly T[], tellOf: (thing: T) => Offence): Offending => ({
  count: things.length,
  tell: () => things.map(tellOf),
});

/** The same where what offends is an activity itself. */
export const offendingSo = <T extends { readonly at: number }>(
  things: readonly T[],
  say: (thing: T) => string,
): Offending => offending(things, (thing) => new Told(thing.at, thing, say));

const asItIs = (words: string): string => words;

/** Those that offend: of which `fault` says something. */
export function faulty<T extends { readonly at: number }>(
  things: readonly T[],
  fault: (thing: T) => string | null,
): Offence[] {
  const found: Offence[] = [];
  for (const thing of things) {
    const words = fault(thing);
    if (words !== null) found.push(new Told(thing.at, words, asItIs));
  }
  return found;
}

/** What a check found. Ratios are `null` where there is nothing to count. */
export interface Measured {
  readonly count: number | null;
  readonly outOf: number | null;
  readonly value: number | null;
  /** Whether a test held; for what is not measured by a number. */
  readonly holds?: boolean;
  /** What offends, told of when it is asked for. */
  readonly tell: () => readonly Offence[];
}

/** How the value is held against its limit. */
export type Rule = "atMost" | "atLeast" | "holds";

/** One of the fourteen checks of the DCMA assessment. */
export interface Check {
  readonly number: number;
  readonly name: string;
  /** What it counts, in a sentence. */
  readonly counts: string;
  /** Why that matters, in a sentence. */
  readonly why: string;
  readonly rule: Rule;
  /** The published limit; a ratio, an index, or for a rule that holds or not the days by which it may be off. */
  readonly limit: number;
  readonly mend: MendPlace;
  readonly measure: (ground: Ground) => Measured;
}

/** A share of those looked at: `null` where there are none. */
export function share(found: Offending, outOf: number): Measured {
  return counted(found.count, outOf, found);
}

/** As `share`, where what is counted is not what offends. */
export function counted(count: number, outOf: number, { tell }: Offending): Measured {
  return { count, outOf, value: outOf === 0 ? null : count / outOf, tell };
}

const NO_OFFENCES = (): readonly Offence[] => [];

/** An index: nothing is counted. */
export const uncounted = (value: number | null): Measured => ({ count: null, outOf: null, value, tell: NO_OFFENCES });

/** Nothing to count: no data date, or no baseline. */
export const NOTHING_TO_COUNT: Measured = { count: 0, outOf: 0, value: null, tell: NO_OFFENCES };
