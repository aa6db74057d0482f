import type { Alternates, Activity, ActivityState, DeadlineState, OwnField, OwnValues } from "@chronometra/core";

/** One line of the plan page: an activity with all that is shown of it. Instants in local minutes since 1990. */
export interface SheetRow {
  readonly id: string;
  readonly name: string;
  readonly kind: NonNullable<Activity["kind"]>;
  /** The activity it lies below. */
  readonly parent: string | null;
  readonly depth: number;
  /** Its code in the work breakdown structure, `2.1.3`; always in step with the tree. */
  readonly wbs: string;
  readonly children: number;
  readonly parked: boolean;
  /** Where what is parked is shown to lie: where it was approved to begin, else at the data date or the project's start. */
  readonly mooredAt: number | null;
  /** Minutes of a day in the activity's calendar. */
  readonly dayMinutes: number;
  readonly durationMinutes: number | null;
  readonly percent: number | null;
  /** What has been earned of the budget, 0 to 1, where that can be said. */
  readonly earned: number | null;
  readonly remainingMinutes: number | null;
  readonly actualStart: string | null;
  readonly actualFinish: string | null;
  /** Ended short of its scope. */
  readonly dropped: boolean;
  readonly deadline: string | null;
  readonly deadlineState: DeadlineState | null;
  readonly marginDays: number | null;
  readonly dates: SheetDates | null;
  readonly approved: {
    readonly start: number;
    readonly finish: number;
    readonly startDate: string;
    readonly finishDate: string;
  } | null;
  /** Working days later than approved. */
  readonly drift: number | null;
  /** What it comes after, as it is typed. */
  readonly after: string;
  /** Who works on it, as it is typed. */
  readonly people: string;
  /** Who answers for it: a person's id. */
  readonly owner: string | null;
  readonly ownerName: string;
  /** A calendar of its own. */
  readonly calendar: string | null;
  readonly calendarName: string;
  /** What decides its dates: its length (kept, or drifting with its people), or the hours of its people. */
  readonly drivenBy: "length" | "lengthDrifting" | "hours";
  readonly wish: NonNullable<Activity["wish"]> | null;
  /** Hours and cost planned on it or, of a summary, on all below it; minutes and minor units. */
  readonly plannedMinutes: number;
  readonly budgetMinor: number;
  readonly values: OwnValues;
}

/** A link as it is drawn. */
export interface SheetLink {
  readonly key: string;
  readonly from: string;
  readonly to: string;
  readonly type: "FS" | "SS" | "FF" | "SF";
}

export interface SheetDates {
  readonly start: number;
  readonly finish: number;
  readonly startDate: string;
  readonly finishDate: string;
  readonly lateFinish: number | null;
  readonly floatMinutes: number | null;
  readonly critical: boolean;
  readonly longestPath: boolean;
  readonly state: ActivityState;
}

/** What a cell may be chosen from. */
export interface Named {
  readonly id: string;
  readonly name: string;
}

/** A plan laid out for the page, rows in reading order. */
export interface Sheet {
  readonly rows: readonly SheetRow[];
  readonly links: readonly SheetLink[];
  /** The day on which the project starts. */
  readonly start: string;
  readonly dataDate: string | null;
  readonly finish: number | null;
  /** The baseline that is compared against, and all there are. */
  readonly baseline: number | null;
  readonly baselines: readonly number[];
  readonly unscheduled: number;
  readonly fields: readonly OwnField[];
  /** Steps with several ways, of which one is live. */
  readonly alternates: readonly Alternates[];
  readonly people: readonly Named[];
  readonly calendars: readonly Named[];
  readonly categories: readonly string[];
  readonly minorDigits: number;
}
