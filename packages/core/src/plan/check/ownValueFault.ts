import { parseDate } from "../../time/instant.ts";
import type { OwnField } from "../ownTables.ts";

interface Field {
  readonly type: OwnField["type"];
  readonly choices?: readonly string[] | undefined;
}

/** Why a value does not fit its field; `null` where it does. */
export function ownValueFault(field: Field, value: string | number | boolean): string | null {
  switch (field.type) {
    case "text":
      return typeof value === "string" ? null : "must be a text";
    case "number":
      return typeof value === "number" && Number.isFinite(value) ? null : "must be a number";
    case "yesNo":
      return typeof value === "boolean" ? null : "must be yes or no";
    case "date":
      return typeof value === "string" && parseDate(value) !== null
        ? null
        : "must be a date YYYY-MM-DD between 1990-01-01 and 2099-12-31";
    case "choice":
      return (field.choices ?? []).includes(value as string)
        ? null
        : `must be one of ${(field.choices ?? []).map((choice) => `"${choice}"`).join(", ")}`;
    default:
      return field.type satisfies never;
  }
}
