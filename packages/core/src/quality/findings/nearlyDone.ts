import { offences } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";
import { underWay } from "./news.ts";

/** Periods over which work may be nearly done before it is named. Common practice, no source. */
const PERIODS = 3;
const NEARLY = 90;

export const nearlyDone: Finding = {
  key: "nearlyDone",
  about: "reporting",
  name: `${NEARLY}% for ${PERIODS} periods`,
  why: "The last tenth takes as long as the rest: either it was never so far, or nobody wants to say that it is finished.",
  mend: "progress",
  find: (ground, { periods }) => {
    const before = periods.filter(({ dataDay }) => dataDay < ground.dataDay!).slice(0, PERIODS - 1);
    if (before.length < PERIODS - 1) return [];
    const nearly = (percent: number | undefined): boolean => (percent ?? 0) >= NEARLY;
    const stuck = underWay(ground).filter(
      ({ activity }) =>
        nearly(activity.percent) && before.every(({ activities }) => nearly(activities.get(activity.id)?.percent)),
    );
    return offences(
      stuck,
      ({ activity }) => `${activity.percent}%, since period ${before.at(-1)!.number} at the latest`,
    );
  },
};
