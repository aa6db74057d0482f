import { formatHours, numberWords, parseDate, parseInstant, wishText } from "@chronometra/core";
import { dateWords } from "../shared/words/words.ts";

const isWish = (value: object): value is NonNullable<Parameters<typeof wishText>[0]> =>
  "type" in value && "date" in value;

/**
 * A value of a field as people read it: dates, lengths and wishes in the words of the screen.
 * @param path where it stands, `activities/A/durationMinutes`
 */
export function valueWords(path: string, value: unknown): string {
  const field = path.split("/").at(-1) ?? "";
  if (value === null || value === undefined) return "nothing";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number")
    return field.endsWith("Minutes") ? formatHours(value) : field === "percent" ? `${value}%` : numberWords(value, 6);
  if (typeof value === "string")
    return parseDate(value) !== null || parseInstant(value) !== null ? dateWords(value.slice(0, 10)) : `“${value}”`;
  return isWish(value) ? wishText(value) : "changed";
}
