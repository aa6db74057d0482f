import { fromBundle } from "@chronometra/core";
import { smallPlan } from "../testing/testWorld.ts";
import { describePath } from "./pathWords.ts";

const plan = fromBundle(smallPlan());

it.each([
  ["activities/dig/durationMinutes", "Dig: duration"],
  ["activities/dig/wish", "Dig: date wish"],
  ["activities/dig", "Dig"],
  ["activities/gone/name", "an activity that was removed: name"],
  ["links/1", "the link from Dig to Pour"],
  ["links/99/lagMinutes", "a link that was removed: lag"],
  ["assignments/1/plannedMinutes", "Ann on Dig: planned hours"],
  ["project/dataDate", "the project: data date"],
  ["people/ann/rates", "Ann: rates"],
])("%s is said as %s, without an id or a field of the format", (path, words) =>
  expect(describePath(plan, path)).toBe(words),
);
