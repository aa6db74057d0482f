import { projectValueFault, type Portfolio, type ProjectField, type ProjectLine } from "@chronometra/contract";
import type { CallNames } from "@chronometra/core";
import { type OwnValue } from "@chronometra/core";
import { amountText, readAmount, readNumber } from "../shared/words/amounts.ts";
import { dateWords, money, readDate } from "../shared/words/words.ts";

type Named = Portfolio["named"];

/** A value of an own field as people read it. */
export function ownValueWords(field: ProjectField, { values, summary }: ProjectLine, named: Named): string {
  const value = values[field.id];
  if (value === undefined) return "";
  if (typeof value === "boolean") return value ? "yes" : "no";
  switch (field.type) {
    case "date":
      return dateWords(String(value));
    case "money":
      return money(minorOf(value, summary.minorDigits), summary.minorDigits);
    case "person":
      return named[String(value)] ?? "someone who is not known any more";
    default:
      return String(value);
  }
}

/** An amount of whole units in minor ones. */
export const minorOf = (value: OwnValue, minorDigits: number): number => Math.round(Number(value) * 10 ** minorDigits);

/** As it is typed again: an amount without marks between thousands. */
export function ownValueText(field: ProjectField, line: ProjectLine, named: Named): string {
  const value = line.values[field.id];
  const { minorDigits } = line.summary;
  return field.type === "money" && value !== undefined
    ? amountText(minorOf(value, minorDigits), minorDigits)
    : ownValueWords(field, line, named);
}

export interface ReadContext {
  /** The year of dates that say none. */
  readonly year: string;
  readonly minorDigits: number;
  readonly people: CallNames;
}

/** What is typed as a value of a field; `null` takes it away, `undefined` is none. */
export function readOwnValue(
  field: ProjectField,
  text: string,
  { year, minorDigits, people }: ReadContext,
): OwnValue | null | undefined {
  const plain = text.trim();
  if (plain === "") return null;
  const value = read();
  return value !== undefined && projectValueFault(field, value, minorDigits) === null ? value : undefined;

  function read(): OwnValue | undefined {
    switch (field.type) {
      case "number":
        return readNumber(plain) ?? undefined;
      case "date":
        return readDate(plain, year) ?? undefined;
      case "yesNo":
        return /^yes$/i.test(plain) ? true : /^no$/i.test(plain) ? false : undefined;
      case "choice":
        return (field.choices ?? []).find((choice) => choice.toLowerCase() === plain.toLowerCase());
      case "money": {
        const minor = readAmount(plain, minorDigits);
        return minor === null ? undefined : minor / 10 ** minorDigits;
      }
      case "person": {
        const found = people.findWhole(plain);
        return "id" in found ? found.id : undefined;
      }
      default:
        return plain;
    }
  }
}

/** By what a column or a group of a field is put in order: choices as they are offered, other things by what they say. */
export function ownValueOrder(field: ProjectField, line: ProjectLine, named: Named): string | number | null {
  const value = line.values[field.id];
  if (value === undefined) return null;
  if (field.type === "choice") return (field.choices ?? []).indexOf(String(value));
  if (field.type === "money") return minorOf(value, line.summary.minorDigits);
  return field.type === "person" || typeof value === "boolean" ? ownValueWords(field, line, named) : value;
}
