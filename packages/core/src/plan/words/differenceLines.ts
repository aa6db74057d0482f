import { formatHours } from "../../time/duration.ts";
import { dateWords } from "../../words/dateWords.ts";
import { moneyWords, numberWords } from "../../words/numberWords.ts";
import type { Change } from "../change.ts";
import type { PlanTable } from "../tables.ts";
import type { Plan } from "../plan.ts";
import { namesIn, rowCalled } from "./changeWords.ts";
import { fieldWords, rowWords } from "./pathWords.ts";
import { wishText } from "./wishWords.ts";

/** One field, or one row, as it was and as it is, in words. */
export interface DifferenceLine {
  /** `table/row/field`, or `table/row` of a row that came or went; `project/field` of the project's own. */
  readonly path: string;
  readonly what: string;
  /** What the field is called; empty of a row that came or went. */
  readonly field: string;
  readonly was: string;
  readonly is: string;
  /** The activities that it speaks of. */
  readonly of: readonly string[];
}

type Table = PlanTable | "project";

/** What a change writes: a field of a row, or a whole row where `field` is null. */
interface Write {
  readonly table: Table;
  readonly key: string;
  readonly field: string | null;
  readonly value: unknown;
}

const NOTHING = "–";
const GONE = "removed";

const set = (table: Table, key: string, fields: Readonly<Record<string, unknown>>): Write[] =>
  Object.entries(fields).map(([field, value]) => ({ table, key, field, value: value ?? null }));

/** Changes that write one field of an activity, with that field and where its value stands. */
const OF_ONE: Partial<Record<Change["type"], readonly [field: string, of: string]>> = {
  setName: ["name", "name"],
  setKind: ["kind", "kind"],
  setDuration: ["durationMinutes", "minutes"],
  setDeadline: ["deadline", "date"],
  setWish: ["wish", "wish"],
  setCredit: ["credit", "credit"],
  setParked: ["parked", "parked"],
};

function writesOf(change: Change): Write[] {
  const one = OF_ONE[change.type];
  if (one !== undefined && "activity" in change)
    return set("activities", change.activity, { [one[0]]: (change as unknown as Record<string, unknown>)[one[1]] });
  switch (change.type) {
    case "moveBranch":
      return set("activities", change.activity, { parent: change.parent, place: change.before });
    case "setWorking":
    case "reportProgress": {
      const { type: _type, activity, ...fields } = change;
      return set("activities", activity, fields);
    }
    case "setOwnValue":
      return set("ownValues", change.activity, { [change.field]: change.value });
    case "setRemainingWork": {
      const { type: _type, assignment, ...fields } = change;
      return set("assignments", assignment, fields);
    }
    case "setProject":
      return set("project", "", change.set);
    case "setDataDate":
      return set("project", "", { dataDate: change.date });
    case "editRow":
      return set(change.table, change.key, change.set);
    default:
      return rowOf(change);
  }
}

/** A whole row that a change writes. */
function rowOf(change: Change): Write[] {
  const row = (table: Table, key: string, value: unknown): Write[] => [{ table, key, field: null, value }];
  switch (change.type) {
    case "postTime":
      return row("timeEntries", change.key, change.entry);
    case "postCost":
      return row("actualCosts", change.key, change.cost);
    case "freeze":
      return row("baselines", String(change.baseline.number), change.baseline);
    case "addRow":
      return row(change.table, change.key, change.row);
    case "removeRow":
      return row(change.table, change.key, null);
    default:
      return [];
  }
}

/** Fields that name another row, by the table it is in. */
const NAMES: Readonly<Record<string, PlanTable>> = {
  parent: "activities",
  place: "activities",
  activity: "activities",
  from: "activities",
  to: "activities",
  owner: "people",
  person: "people",
  calendar: "calendars",
  base: "calendars",
  box: "timeboxes",
  branch: "activities",
  milestone: "activities",
};
const A_DATE = /^\d{4}-\d{2}-\d{2}$/;

function textWords(field: string, value: string, plan: Plan): string {
  if (A_DATE.test(value)) return dateWords(value);
  const table = NAMES[field];
  if (table !== undefined) return rowWords(plan, table, value);
  return /^[a-z]+([A-Z][a-z]+)+$/.test(value) ? value.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`) : value;
}

function numberIn(field: string, value: number, plan: Plan): string {
  if (field.endsWith("Minutes") || field === "minutes") return formatHours(value);
  if (field.endsWith("Minor")) return moneyWords(value, plan.project.minorDigits ?? 2);
  return field.toLowerCase().endsWith("percent") ? `${numberWords(value, 2)}%` : numberWords(value, 4);
}

/** A value of a field in words. */
function valueIn(field: string, value: unknown, plan: Plan): string {
  if (value === null || value === undefined || value === "") return NOTHING;
  if (typeof value === "string") return textWords(field, value, plan);
  if (typeof value === "number") return numberIn(field, value, plan);
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (field === "wish") return wishText(value as Parameters<typeof wishText>[0]);
  if (Array.isArray(value))
    return value.every((each) => typeof each === "string")
      ? value.map((each) => textWords(field, each, plan)).join(", ")
      : `${value.length} ${value.length === 1 ? "entry" : "entries"}`;
  return Object.entries(value)
    .map(([name, each]) => `${fieldWords(name)} ${valueIn(name, each, plan)}`)
    .join(", ");
}

/** What of a row is not said of it: it stands in what it is called. */
const SAID = new Set(["id", "name", "activity", "person", "from", "to", "state", "parent"]);
const MOST_FIELDS = 4;

/** A row that came, by what is in it. */
function rowIn(table: Table, row: Readonly<Record<string, unknown>>, plan: Plan): string {
  if (table === "baselines") return "frozen";
  if (table === "timeEntries") return `${formatHours(Number(row["minutes"]))} on ${dateWords(String(row["date"]))}`;
  const fields = Object.entries(row).filter(([name, value]) => !SAID.has(name) && typeof value !== "object");
  const words = fields
    .slice(0, MOST_FIELDS)
    .map(([name, value]) => `${fieldWords(name)} ${valueIn(name, value, plan)}`);
  return words.length === 0 ? "new" : `new: ${words.join(", ")}`;
}

const pathOf = ({ table, key, field }: Write): string =>
  [table, ...(table === "project" ? [] : [key]), ...(field === null ? [] : [field])].join("/");

function fieldCalled({ table, field }: Write, plan: Plan): string {
  if (field === null) return "";
  return table === "ownValues" ? rowWords(plan, "fields", field) : fieldWords(field);
}

function whatOf({ table, key, field, value }: Write, plan: Plan): string {
  if (table === "project") return "the project";
  if (field !== null && table === "ownValues") return rowWords(plan, "activities", key);
  if (table === "timeEntries" && value !== null) {
    const { person, activity } = value as { person: string; activity: string };
    return `time of ${rowWords(plan, "people", person)} on ${rowWords(plan, "activities", activity)}`;
  }
  if (table === "actualCosts" && value !== null)
    return `an actual cost of ${rowWords(plan, "activities", (value as { activity: string }).activity)}`;
  return rowCalled(table, key, namesIn(plan));
}

/** Tables whose rows bear the key of the activity that they hang on. */
const OF_AN_ACTIVITY = new Set<Table>([
  "activities",
  "ownValues",
  "promises",
  "notes",
  "ranges",
  "blocks",
  "boxed",
  "gathered",
]);

/** The activities that a written row or field speaks of. */
function activitiesOf({ table, key, field, value }: Write, plan: Plan): string[] {
  if (OF_AN_ACTIVITY.has(table)) return [key];
  if (table === "project") return [];
  const row = field === null && value !== null ? value : (plan[table] as ReadonlyMap<string, unknown>).get(key);
  const { activity, from, to } = (row ?? {}) as Record<string, unknown>;
  return [activity, ...(table === "links" ? [from, to] : [])].filter((id) => typeof id === "string");
}

/**
 * What a list of changes made of each field and row that it wrote: as it was, and as it is. Of a field that it wrote
 * several times, the first and the last; one that is as it was is left out.
 * @param plan names rows, those that are gone by then too
 * @param inverse what leads back; `null` where the list cannot be undone: what was is not known then of its fields
 */
export function differenceLines(
  changes: readonly Change[],
  inverse: readonly Change[] | null,
  plan: Plan,
): DifferenceLine[] {
  const before = new Map<string, Write>();
  for (const write of (inverse ?? []).flatMap(writesOf)) before.set(pathOf(write), write);
  const after = new Map<string, Write>();
  for (const write of changes.flatMap(writesOf)) after.set(pathOf(write), write);
  return [...after].flatMap(([path, write]) => {
    const former = before.get(path);
    const called = write.value === null && write.field === null ? (former ?? write) : write;
    const line = { path, what: whatOf(called, plan), field: fieldCalled(write, plan), of: activitiesOf(called, plan) };
    if (write.field === null) {
      const row = (value: unknown): string => rowIn(write.table, value as Record<string, unknown>, plan);
      if (write.value === null) return former?.value == null ? [] : [{ ...line, was: "there", is: GONE }];
      return [{ ...line, was: former?.value == null ? NOTHING : "there", is: row(write.value) }];
    }
    const was =
      former === undefined ? (inverse === null ? "not kept" : NOTHING) : valueIn(write.field, former.value, plan);
    const is = valueIn(write.field, write.value, plan);
    return former !== undefined && was === is ? [] : [{ ...line, was, is }];
  });
}
