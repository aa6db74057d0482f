import { closeOf, openOf, parseDate, parseInstant, type LocalMinute } from "../../time/instant.ts";
import { type Problem, type TableName } from "../problem.ts";
import type { Activity } from "../schema.ts";

/** The instant an actual start means: a date stands for its 00:00. */
export const actualStartAt = (text: string): LocalMinute => parseInstant(text) ?? openOf(parseDate(text)!);
/** The instant an actual finish means: a date stands for its 24:00. */
export const actualFinishAt = (text: string): LocalMinute => parseInstant(text) ?? closeOf(parseDate(text)!);

/** Collects problems, so that each check says only what it found. */
export class Findings {
  readonly list: Problem[] = [];
  add(table: TableName, row: string, field: string, message: string): void {
    this.list.push({ table, row, field, message });
  }
}

/** What the kind of an activity forbids it to carry. */
export function checkKind(activity: Activity, found: Findings): void {
  const kind = activity.kind ?? "work";
  if (kind === "work" && activity.durationMinutes === 0) {
    found.add("activities", activity.id, "durationMinutes", "a duration of 0 is refused; make it a milestone");
  }
  if (kind === "milestone" && activity.durationMinutes !== undefined) {
    found.add(
      "activities",
      activity.id,
      "durationMinutes",
      "a milestone has no duration; leave it out or make it work",
    );
  }
  if (kind !== "summary") return;
  for (const field of [
    "durationMinutes",
    "wish",
    "actualStart",
    "actualFinish",
    "percent",
    "remainingMinutes",
  ] as const) {
    if (activity[field] !== undefined) {
      found.add(
        "activities",
        activity.id,
        field,
        "a summary rolls up what is below it and carries none of its own; move it to an activity below",
      );
    }
  }
}

/** Actual dates: none without a data date, none before the start. */
export function checkActuals(activity: Activity, dataDate: string | undefined, found: Findings): void {
  const { actualStart, actualFinish } = activity;
  if (dataDate === undefined) {
    for (const field of ["actualStart", "actualFinish", "percent", "remainingMinutes"] as const) {
      const value = activity[field];
      if (value === undefined || (field === "percent" && value === 0)) continue;
      found.add("activities", activity.id, field, "progress needs a data date; give the project one");
    }
  }
  if (activity.dropped === true && actualFinish === undefined) {
    found.add(
      "activities",
      activity.id,
      "dropped",
      "is dropped but has no actual finish; say when it ended, or remove the mark",
    );
  }
  if (actualFinish === undefined) return;
  if (actualStart === undefined) {
    if (activity.kind !== "milestone")
      found.add("activities", activity.id, "actualFinish", "has an actual finish but no actual start");
  } else if (actualFinishAt(actualFinish) < actualStartAt(actualStart)) {
    found.add(
      "activities",
      activity.id,
      "actualFinish",
      `finishes on ${actualFinish}, before it starts on ${actualStart}`,
    );
  }
}

/** What a rule of credit needs. */
export function checkCredit(activity: Activity, found: Findings): void {
  const credit = activity.credit;
  if (credit === undefined) return;
  const miss = (field: string, message: string): void =>
    found.add("activities", activity.id, `credit.${field}`, message);
  switch (credit.rule) {
    case "startFinish":
      if (credit.startCredit === undefined)
        miss("startCredit", "the rule startFinish needs the percent credited at the start");
      break;
    case "steps":
      if (!(credit.steps ?? []).some((step) => step.weight > 0))
        miss("steps", "the rule steps needs at least one step with a weight");
      break;
    case "units":
      if (!(credit.unitsTotal !== undefined && credit.unitsTotal > 0))
        miss("unitsTotal", "the rule units needs the units in all, above 0");
      break;
    case "stages": {
      const names = (credit.stages ?? []).map((stage) => stage.name);
      if (names.length === 0) miss("stages", "the rule stages needs its stages");
      else if (credit.stage === undefined || !names.includes(credit.stage)) {
        miss("stage", `must be one of the stages ${names.map((name) => `"${name}"`).join(", ")}`);
      }
      break;
    }
    case "apportioned":
      if (credit.to === undefined) miss("to", "the rule apportioned needs the activity it follows");
      break;
    case "reported":
    case "zeroHundred":
    case "levelOfEffort":
      break;
  }
}
