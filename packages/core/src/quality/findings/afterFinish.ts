import { actualFinishAt } from "../../plan/check/checkActivity.ts";
import { finishDayOf, parseDate } from "../../time/instant.ts";
import { faulty } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";
import { dateWords } from "../../words/dateWords.ts";

export const afterFinish: Finding = {
  key: "afterFinish",
  about: "reporting",
  name: "Costs on finished work",
  why: "It goes on costing after it was said to be finished: it is not, or something is booked in the wrong place.",
  mend: "ended",
  find: ({ plan, scheduled }) => {
    const last = new Map<string, string>();
    const later = (activity: string, date: string): void =>
      void (date > (last.get(activity) ?? "") && last.set(activity, date));
    for (const { activity, date } of plan.actualCosts ?? []) later(activity, date);
    for (const { activity, date, state } of plan.timeEntries ?? []) if (state === "posted") later(activity, date);
    if (last.size === 0) return [];
    return faulty(scheduled, ({ activity: { actualFinish, id } }) => {
      const date = last.get(id);
      return actualFinish !== undefined &&
        date !== undefined &&
        parseDate(date)! > finishDayOf(actualFinishAt(actualFinish))
        ? `finished ${dateWords(actualFinish)}, booked on ${dateWords(date)}`
        : null;
    });
  },
};
