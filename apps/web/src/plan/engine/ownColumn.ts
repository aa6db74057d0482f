import type { OwnField, OwnValue } from "@chronometra/core";
import { dateWords, NOT_A_DATE, readDate } from "../../shared/words/words.ts";
import type { SheetRow } from "./sheet.ts";
import type { SheetColumn } from "./sheetColumn.ts";

/** A value as it is shown and typed. */
export function ownValueText(field: OwnField, value: OwnValue | undefined): string {
  if (value === undefined) return "";
  if (field.type === "date") return dateWords(String(value));
  if (field.type === "yesNo") return value === true ? "yes" : "no";
  return String(value);
}

const YES = ["yes", "y", "true", "1", "x"];
const NO = ["no", "n", "false", "0"];

/** Reads a value of a field; `null` clears it. */
export function readOwnValue(
  field: OwnField,
  text: string,
  year: string,
): OwnValue | null | { readonly fault: string } {
  const plain = text.trim();
  if (plain === "") return null;
  switch (field.type) {
    case "text":
      return plain;
    case "number": {
      const number = Number(plain.replace(/[\s\u00a0']/g, "").replace(",", "."));
      return Number.isFinite(number) ? number : { fault: `“${plain}” is no number.` };
    }
    case "date":
      return readDate(plain, year) ?? { fault: NOT_A_DATE };
    case "yesNo":
      return YES.includes(plain.toLowerCase())
        ? true
        : NO.includes(plain.toLowerCase())
          ? false
          : { fault: "Write yes or no." };
    case "choice": {
      const choices = field.choices ?? [];
      const found = choices.filter((choice) => choice.toLowerCase() === plain.toLowerCase());
      const begun =
        found.length > 0 ? found : choices.filter((choice) => choice.toLowerCase().startsWith(plain.toLowerCase()));
      return begun.length === 1 ? begun[0]! : { fault: `${field.name} is one of ${choices.join(", ")}.` };
    }
    default:
      return field.type satisfies never;
  }
}

const OWN_WIDTH = 96;

/** The column of a field of one's own. */
export function ownColumn(field: OwnField): SheetColumn {
  const text = (row: SheetRow): string => ownValueText(field, row.values[field.id]);
  return {
    id: `own-${field.id}`,
    head: field.name,
    hint: `A field of this plan's own (${field.type === "yesNo" ? "yes or no" : field.type})`,
    width: OWN_WIDTH,
    hidden: true,
    ...(field.type === "number" ? { numeric: true as const } : {}),
    text,
    edit: text,
    closed: () => null,
    read: (typed, row, { today }) => {
      const value = readOwnValue(field, typed, today.slice(0, 4));
      if (typeof value === "object" && value !== null) return value;
      return value === (row.values[field.id] ?? null)
        ? { changes: [] }
        : { changes: [{ type: "setOwnValue", activity: row.id, field: field.id, value }] };
    },
    ...(field.type === "choice"
      ? { offers: () => field.choices ?? [] }
      : field.type === "yesNo"
        ? { offers: () => ["yes", "no"] }
        : {}),
  };
}
