import { faulty } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";
import { inDays } from "../ground/ground.ts";
import { leftOf, underWay } from "./news.ts";

/** Issued periods over which what is left may stand still. Common practice, no source. */
const PERIODS = 2;

export const neverShrinks: Finding = {
  key: "neverShrinks",
  about: "reporting",
  name: "What remains never shrinks",
  why: "Its finish moves on by a period every period: the end is not known.",
  mend: "left",
  find: (ground, { periods }) => {
    const before = periods.filter(({ dataDay }) => dataDay < ground.dataDay!).slice(0, PERIODS);
    if (before.length < PERIODS) return [];
    return faulty(underWay(ground), (placed) => {
      const begun = before
        .map(({ activities }) => activities.get(placed.activity.id))
        .filter((activity) => activity?.actualStart !== undefined && activity.actualFinish === undefined);
      const left = [placed.activity, ...begun].map((activity) => leftOf(activity!));
      const stands =
        begun.length === PERIODS &&
        left.every((minutes, i) => minutes !== null && minutes > 0 && (i === 0 || left[i - 1]! >= minutes));
      return stands
        ? `${inDays(left[0]!, placed)} remaining, ${inDays(left.at(-1)!, placed)} in period ${before.at(-1)!.number}`
        : null;
    });
  },
};
