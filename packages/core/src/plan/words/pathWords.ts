import type { Plan } from "../plan.ts";
import { TABLES, type PlanTable } from "../tables.ts";

/** What the screen calls a field of a row. */
const FIELDS: Readonly<Record<string, string>> = {
  parent: "place in the tree",
  place: "comes before",
  kind: "kind",
  durationMinutes: "duration",
  driver: "what decides its dates",
  windowPolicy: "whether its window holds",
  wish: "date wish",
  credit: "rule of credit",
  actualStart: "actual start",
  actualFinish: "actual finish",
  dropped: "whether it was dropped",
  percent: "percent done",
  remainingMinutes: "remaining",
  restart: "when work goes on",
  plannedMinutes: "planned hours",
  unitsPercent: "share of the day",
  plannedMinor: "planned cost",
  timing: "when it is spent",
  lagMinutes: "lag",
  lagIn: "how its lag counts",
  perHourMinor: "rate",
  dataDate: "data date",
  minorDigits: "digits of the currency",
  criticalFloatMinutes: "float that counts as critical",
  tightDays: "days that count as tight",
  logic: "logic of work under way",
  dayMinutes: "hours of a day",
  week: "working hours",
  exceptions: "days apart",
  base: "calendar it rests on",
  costMinor: "extra cost",
  effects: "what it would add",
  from: "predecessor",
  to: "successor",
  checks: "check-list",
  first: "first day",
  last: "last day",
  box: "timebox",
  rank: "order",
  milestone: "gathered by",
};

/** What the screen calls a field. */
export const fieldWords = (field: string): string => FIELDS[field] ?? field;

/** What a row of a table is, without its name. */
export const kindOfRow = (table: PlanTable): string => TABLES[table].words;

const nameIn = (rows: ReadonlyMap<string, { readonly name: string }>, id: string | undefined): string | null =>
  rows.get(id ?? "")?.name ?? null;

/** What the screen calls a row: by its name, or by those of what it ties. */
export function rowWords(plan: Plan, table: PlanTable | "project", id: string): string {
  const activity = (of: string | undefined): string => nameIn(plan.activities, of) ?? "an activity that was removed";
  const gone = (what: string): string => `${what} that was removed`;
  switch (table) {
    case "project":
      return "the project";
    case "activities":
    case "ownValues":
    case "promises":
    case "notes":
    case "ranges":
    case "blocks":
    case "boxed":
    case "gathered":
      return activity(id);
    case "links": {
      const link = plan.links.get(id);
      return link === undefined ? gone("a link") : `the link from ${activity(link.from)} to ${activity(link.to)}`;
    }
    case "assignments": {
      const row = plan.assignments.get(id);
      return row === undefined
        ? gone("someone’s work")
        : `${nameIn(plan.people, row.person) ?? "someone"} on ${activity(row.activity)}`;
    }
    case "costs": {
      const cost = plan.costs.get(id);
      return cost === undefined ? gone("a planned cost") : `the cost ${cost.category} of ${activity(cost.activity)}`;
    }
    case "timeEntries": {
      const entry = plan.timeEntries.get(id);
      return entry === undefined
        ? gone("a time entry")
        : `time of ${nameIn(plan.people, entry.person) ?? "someone"} on ${activity(entry.activity)}`;
    }
    case "actualCosts":
      return `an actual cost of ${activity(plan.actualCosts.get(id)?.activity)}`;
    case "baselines":
      return `baseline ${id}`;
    case "placeholders":
      return nameIn(plan.people, id) ?? gone("someone who stood for a role");
    case "carried":
      return rowWords(plan, "links", id);
    default:
      return nameIn(plan[table], id) ?? gone(TABLES[table].words);
  }
}

/**
 * A path of what changes wrote, in the words of the screen: `Dig: duration`.
 * @param path `table/row/field`, the field left out for a whole row
 */
export function describePath(plan: Plan, path: string): string {
  const [table = "", id = "", field] = path.split("/");
  const of = table === "project" ? id : field;
  const words =
    table === "ownValues" ? nameIn(plan.fields, field) : of === undefined || of === "" ? null : fieldWords(of);
  return [rowWords(plan, table as PlanTable | "project", id), words].filter((each) => each !== null).join(": ");
}
