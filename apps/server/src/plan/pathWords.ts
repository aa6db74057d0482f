import type { Plan } from "@chronometra/core";

/** What the screen calls a field of a row. */
const FIELDS: Readonly<Record<string, string>> = {
  parent: "place in the tree",
  durationMinutes: "duration",
  driver: "what decides its dates",
  windowPolicy: "whether its window holds",
  wish: "date wish",
  credit: "rule of credit",
  actualStart: "actual start",
  actualFinish: "actual finish",
  percent: "percent done",
  remainingMinutes: "remaining",
  plannedMinutes: "planned hours",
  unitsPercent: "share of the day",
  plannedMinor: "planned cost",
  lagMinutes: "lag",
  lagIn: "how its lag counts",
  perHourMinor: "rate",
  rates: "rates",
  dataDate: "data date",
  minorDigits: "digits of the currency",
  criticalFloatMinutes: "float that counts as critical",
  tightDays: "days that count as tight",
  logic: "logic of work under way",
  dayMinutes: "hours of a day",
};

const nameIn = (rows: ReadonlyMap<string, { readonly name: string }>, id: string | undefined): string | null =>
  rows.get(id ?? "")?.name ?? null;

/** What the screen calls a row: by its name, or by those of what it ties. */
function rowWords(plan: Plan, table: string, id: string): string {
  const activity = (of: string | undefined): string => nameIn(plan.activities, of) ?? "an activity that was removed";
  switch (table) {
    case "project":
      return "the project";
    case "activities":
      return activity(id);
    case "links": {
      const link = plan.links.get(id);
      return link === undefined
        ? "a link that was removed"
        : `the link from ${activity(link.from)} to ${activity(link.to)}`;
    }
    case "assignments": {
      const row = plan.assignments.get(id);
      return row === undefined
        ? "someone’s work that was removed"
        : `${nameIn(plan.people, row.person) ?? "someone"} on ${activity(row.activity)}`;
    }
    case "costs": {
      const cost = plan.costs.get(id);
      return cost === undefined ? "a cost that was removed" : `the cost ${cost.category} of ${activity(cost.activity)}`;
    }
    case "ownValues":
    case "promises":
    case "ranges":
    case "blocks":
      return activity(id);
    case "people":
      return nameIn(plan.people, id) ?? "a person who was removed";
    case "calendars":
      return nameIn(plan.calendars, id) ?? "a calendar that was removed";
    case "teams":
      return nameIn(plan.teams, id) ?? "a team that was removed";
    case "risks":
      return nameIn(plan.risks, id) ?? "a risk that was removed";
    default:
      return "something besides the activities";
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
    table === "ownValues" ? nameIn(plan.fields, field) : of === undefined || of === "" ? null : (FIELDS[of] ?? of);
  return [rowWords(plan, table, id), words].filter((each) => each !== null).join(": ");
}
