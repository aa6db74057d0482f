import { offences } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";
import { dateWords } from "../../words/dateWords.ts";

export const wishesWithoutReason: Finding = {
  key: "wishesWithoutReason",
  about: "plan",
  name: "Wishes without a reason",
  why: "A date that nobody can explain cannot be judged either: is it a contract, a season, or a habit?",
  mend: "wish",
  find: ({ open }) =>
    offences(
      open.filter(({ activity: { wish } }) => wish !== undefined && (wish.reason ?? "").trim() === ""),
      ({ activity }) => `wished for ${dateWords(activity.wish!.date)}`,
    ),
};
