import type { WatchQuestion } from "@chronometra/contract";
import { isWhole } from "./Condition.tsx";

/** Leaves out what the condition writer has not finished yet. */
export const askable = (question: WatchQuestion): WatchQuestion => ({
  ...question,
  where: question.where.map((group) => group.filter(isWhole)).filter((group) => group.length > 0),
});
