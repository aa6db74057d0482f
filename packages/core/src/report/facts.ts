import type { Broken } from "../performance/thresholds.ts";
import type { Figures } from "../performance/figures.ts";
import type { DeadlineState } from "../words/standingWords.ts";

/** What a status report rates and says something of. */
export const ASPECTS = ["schedule", "cost", "scope", "risks", "people", "overall"] as const;
export type Aspect = (typeof ASPECTS)[number];

/** How something is rated, the best first. */
export const RATINGS = ["well", "care", "trouble"] as const;
export type Rating = (typeof RATINGS)[number];

/** What a report of a project knows, from which ratings are suggested and sentences begun. Amounts in minor units. */
export interface ReportFacts {
  readonly currency: string;
  readonly minorDigits: number;
  /** Whether there is a baseline. */
  readonly isApproved: boolean;
  /** Dates as shown; `null` where nothing is scheduled or approved. */
  readonly finish: string | null;
  readonly approvedFinish: string | null;
  /** Working days by which the finish lies after the approved one. */
  readonly drift: number | null;
  /** What the last report forecast, and how far that moved in working days; `null` where another finish is approved. */
  readonly finishBefore: string | null;
  readonly moved: number | null;
  /** The number of the period that was reported last. */
  readonly since: number | null;
  readonly figures: Pick<Figures, "bac" | "pv" | "ev" | "ac" | "spi" | "cpi" | "eac" | "vac"> | null;
  readonly deadlines: readonly {
    readonly name: string;
    readonly deadline: string;
    readonly marginDays: number | null;
    readonly state: DeadlineState;
  }[];
  readonly milestones: readonly {
    readonly name: string;
    readonly forecast: string;
    readonly drift: number | null;
    readonly reached: boolean;
    readonly dropped?: true | undefined;
  }[];
  readonly done: number;
  readonly activities: number;
  readonly unbaselined: number;
  readonly dropped: number;
  /** Change requests that wait for a decision. */
  readonly requestsWaiting: number;
  readonly risks: {
    readonly count: number;
    /** What they are expected to cost together. */
    readonly expectedMinor: number;
    readonly contingencyMinor: number;
    /** Activities that are blocked. */
    readonly blocked: number;
  };
  readonly people: {
    /** Who has not reported, and who has more to do than time in the four weeks to come. */
    readonly missing: readonly string[];
    readonly overloaded: readonly string[];
    /** Roles with work in these weeks that nobody fills yet. */
    readonly unfilled: readonly string[];
  };
  /** Limits of the portfolio that are broken, each in words. */
  readonly broken: readonly (Broken & { readonly words: string })[];
}

export const ASPECT_WORDS: Readonly<Record<Aspect, string>> = {
  schedule: "Schedule",
  cost: "Cost",
  scope: "Scope",
  risks: "Risks",
  people: "People",
  overall: "Overall",
};

export const RATING_WORDS: Readonly<Record<Rating, string>> = {
  well: "goes well",
  care: "needs care",
  trouble: "in trouble",
};
