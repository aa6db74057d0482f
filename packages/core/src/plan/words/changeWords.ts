import { dateWords } from "../../words/dateWords.ts";
import type { Change } from "../change.ts";
import { fieldWords, kindOfRow, rowWords } from "./pathWords.ts";
import type { Plan } from "../plan.ts";
import type { PlanTable } from "../tables.ts";
import { wishText } from "./wishWords.ts";

/** What the screen calls rows of a plan. */
export type Naming = (table: PlanTable, key: string) => string;

/** Names as they stand in a plan. */
export const namesIn =
  (plan: Plan): Naming =>
  (table, key) =>
    rowWords(plan, table, key);

/** What a change of its own writes of an activity. */
const FIELDS: Partial<Record<Change["type"], string>> = {
  setName: "Name",
  setKind: "Kind",
  setDuration: "Duration",
  setDeadline: "Deadline",
  setWish: "Date wish",
  setCredit: "Rule of credit",
  setWorking: "Calendar, owner or driver",
  setOwnValue: "Own field",
  reportProgress: "Progress",
  moveBranch: "Place",
};

function valueWords(change: Change): string {
  switch (change.type) {
    case "setName":
      return `: “${change.name}”`;
    case "setDeadline":
      return change.date === null ? ": none" : `: ${dateWords(change.date)}`;
    case "setWish":
      return change.wish === null ? ": none" : `: ${wishText(change.wish)}`;
    case "reportProgress":
      return change.percent == null ? "" : `: ${change.percent}%`;
    default:
      return "";
  }
}

/** Rows that say something of another, whose key they bear. */
const OF: Partial<Record<PlanTable, readonly [what: string, of: PlanTable]>> = {
  ownValues: ["own fields of", "activities"],
  blocks: ["what blocks", "activities"],
  promises: ["the promise of", "activities"],
  notes: ["the notes of", "activities"],
  ranges: ["the range of", "activities"],
  boxed: ["the timebox of", "activities"],
  gathered: ["what gathers", "activities"],
  placeholders: ["the role of", "people"],
  carried: ["logic carried by", "links"],
};

/** What a row is called where it comes or goes: one that hangs on another is not taken for that. */
export function rowCalled(table: PlanTable, key: string, nameOf: Naming): string {
  const hangs = OF[table];
  if (hangs === undefined) return nameOf(table, key);
  const [what, of] = hangs;
  return `${what} ${of === "links" ? nameOf(of, key) : `“${nameOf(of, key)}”`}`;
}

type Added = Extract<Change, { type: "addRow" }>;

function addedWords({ table, key, row }: Added, nameOf: Naming): string {
  if (table === "activities") return `New row “${row.name}”`;
  if (table === "links") return `Link from “${nameOf("activities", row.from)}” to “${nameOf("activities", row.to)}”`;
  if (table === "assignments") return `${nameOf("people", row.person)} on “${nameOf("activities", row.activity)}”`;
  if (table === "costs") return `Planned cost of “${nameOf("activities", row.activity)}”`;
  if (OF[table] !== undefined) return `New: ${rowCalled(table, key, nameOf)}`;
  return `New: ${kindOfRow(table)}${"name" in row ? ` “${row.name}”` : ""}`;
}

/** One change in a few words of the screen. */
function oneInWords(change: Change, nameOf: Naming): string {
  const field = FIELDS[change.type];
  // A sheet that is written on says the new name already.
  if (
    change.type === "setName" &&
    [change.name, kindOfRow("activities")].includes(nameOf("activities", change.activity))
  )
    return `Name “${change.name}”`;
  if ("activity" in change && field !== undefined)
    return `${field} of “${nameOf("activities", change.activity)}”${valueWords(change)}`;
  switch (change.type) {
    case "setParked":
      return `${change.parked ? "Parked" : "Woken"}: “${nameOf("activities", change.activity)}”`;
    case "setDataDate":
      return `Data date: ${change.date === null ? "none" : dateWords(change.date)}`;
    case "setProject":
      return `Project: ${Object.keys(change.set).map(fieldWords).join(", ")}`;
    case "setRemainingWork":
      return `Remaining hours: ${nameOf("assignments", change.assignment)}`;
    case "postTime":
      return `Time of ${nameOf("people", change.entry.person)} on “${nameOf("activities", change.entry.activity)}”`;
    case "postCost":
      return `Actual cost of “${nameOf("activities", change.cost.activity)}”`;
    case "freeze":
      return `Baseline ${change.baseline.number}`;
    case "addRow":
      return addedWords(change, nameOf);
    case "removeRow":
      return `Removed: ${rowCalled(change.table, change.key, nameOf)}`;
    case "editRow":
      return `${nameOf(change.table, change.key)}: ${Object.keys(change.set).map(fieldWords).join(", ")}`;
    default:
      return "Change";
  }
}

/**
 * What a list of changes does, in a few words: the first, and how many more.
 * @param nameOf names as they stood before
 */
export function changeWords(changes: readonly Change[], nameOf: Naming): string {
  const [first, ...more] = changes;
  if (first === undefined) return "Nothing";
  const rest = more.length === 0 ? "" : ` and ${more.length} more ${more.length === 1 ? "change" : "changes"}`;
  return `${oneInWords(first, nameOf)}${rest}`;
}
