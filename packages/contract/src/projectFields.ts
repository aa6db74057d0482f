import { OWN_FIELD_TYPES, ownValueFault, type OwnValue } from "@chronometra/core";

/** What a field that every project has may hold: money is in the project's currency, a person someone who is known. */
export const PROJECT_FIELD_TYPES = [...OWN_FIELD_TYPES, "money", "person"] as const;
export type ProjectFieldType = (typeof PROJECT_FIELD_TYPES)[number];

interface Field {
  readonly type: ProjectFieldType;
  readonly choices?: readonly string[] | undefined;
}

/**
 * Why a value does not fit its field; `null` where it does. Money is a number of whole units of the currency, so that
 * it stays what it says where the currency becomes one of other digits.
 * @param minorDigits of the project's currency; `null` where values of many projects are looked at
 */
export function projectValueFault(field: Field, value: OwnValue, minorDigits: number | null): string | null {
  if (field.type === "person") return typeof value === "string" && value.length <= 80 ? null : "must be a person";
  if (field.type !== "money") return ownValueFault({ ...field, type: field.type }, value);
  if (typeof value !== "number" || !Number.isFinite(value)) return "must be an amount";
  if (minorDigits === null) return null;
  const minor = value * 10 ** minorDigits;
  if (!Number.isSafeInteger(Math.round(minor))) return "is too large an amount";
  return Math.abs(minor - Math.round(minor)) < 1e-4
    ? null
    : `must be an amount of at most ${minorDigits} decimals, as its currency has`;
}
