import { valueWords } from "./valueWords.ts";

it.each<[string, unknown, string]>([
  ["activities/dig/durationMinutes", 4320, "72 h"],
  ["activities/dig/percent", 40, "40%"],
  ["activities/dig/deadline", "2026-03-09", "9 Mar 2026"],
  ["activities/dig/actualStart", "2026-03-09T13:00", "9 Mar 2026"],
  [
    "activities/dig/wish",
    { type: "finishOn", date: "2026-03-06", reason: "contract" },
    "finish on 6 Mar 2026: contract",
  ],
  ["activities/dig/parked", true, "yes"],
  ["activities/dig/name", "Dig deeper", "“Dig deeper”"],
  ["activities/dig/deadline", null, "nothing"],
  ["activities/dig/credit", { rule: "steps" }, "changed"],
])("of %s, %j is read as %s", (path, value, words) => expect(valueWords(path, value)).toBe(words));
