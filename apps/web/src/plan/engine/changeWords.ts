import type { Change } from "@chronometra/core";
import { countWords } from "../../shared/words.ts";
import type { Sheet } from "./sheet.ts";

const FIELDS: Partial<Record<Change["type"], string>> = {
  setName: "Name",
  setDuration: "Duration",
  setDeadline: "Deadline",
  setWish: "Date wish",
  setCredit: "Rule of credit",
  setWorking: "Calendar and owner",
  setOwnValue: "Own field",
  setParked: "Parking",
  reportProgress: "Progress",
  setRemainingWork: "Remaining work",
  moveBranch: "Place",
  setKind: "Kind",
  setDataDate: "Data date",
  setProject: "Project",
};

function valueWords(change: Change): string {
  switch (change.type) {
    case "setName":
      return ` “${change.name}”`;
    case "setDeadline":
    case "setDataDate":
      return change.date === null ? " none" : ` ${change.date}`;
    case "reportProgress":
      return change.percent == null ? "" : ` ${change.percent}%`;
    default:
      return "";
  }
}

function oneInWords(change: Change, nameOf: (id: string) => string): string {
  const field = FIELDS[change.type];
  if (change.type === "setName") return `Name${valueWords(change)}`;
  if ("activity" in change && field !== undefined)
    return `${field} of “${nameOf(change.activity)}”${valueWords(change)}`;
  if (change.type === "addRow")
    return change.table === "activities"
      ? `New row “${change.row.name}”`
      : change.table === "links"
        ? `Link from “${nameOf(change.row.from)}” to “${nameOf(change.row.to)}”`
        : `Added to ${change.table}`;
  if (change.type === "removeRow")
    return change.table === "activities" ? `Removing “${nameOf(change.key)}”` : `Removed from ${change.table}`;
  return `${field ?? "Change"}${valueWords(change)}`;
}

/** What a list of changes does, in a few words: the first, and how many more. */
export function changeWords(changes: readonly Change[], sheet: Sheet | null): string {
  const [first, ...more] = changes;
  if (first === undefined) return "Nothing";
  const nameOf = (id: string): string => sheet?.rows.find((row) => row.id === id)?.name ?? id;
  return `${oneInWords(first, nameOf)}${more.length === 0 ? "" : ` and ${countWords(more.length, "change", "changes")} more`}`;
}
