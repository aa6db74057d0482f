import { faulty } from "../ground/check.ts";
import type { Finding, Past } from "../ground/finding.ts";
import type { Ground } from "../ground/ground.ts";
import { bookedSince, inHours, lastPeriod, progressed, underWay } from "./news.ts";

/** The period issued last, the time booked since on an activity, and how to say since when. */
function sinceLast(ground: Ground, past: Past) {
  const last = lastPeriod(ground, past);
  const booked = bookedSince(ground, last?.dataDay ?? null);
  return {
    last,
    words: last === null ? "" : ` since period ${last.number}`,
    minutesOn: (id: string): number => booked.get(id)?.minutes ?? 0,
  };
}

export const hoursWithoutProgress: Finding = {
  key: "hoursWithoutProgress",
  about: "reporting",
  name: "Hours without progress",
  why: "Money is spent and nothing is earned: the work is harder than planned, or booked in the wrong place.",
  mend: "progress",
  find: (ground, past) => {
    const { last, words, minutesOn } = sinceLast(ground, past);
    return faulty(underWay(ground), ({ activity }) => {
      const minutes = minutesOn(activity.id);
      const still =
        last === null
          ? (activity.percent ?? 0) === 0 &&
            activity.remainingMinutes === undefined &&
            (activity.credit?.rule ?? "reported") === "reported"
          : !progressed(last.activities.get(activity.id), activity);
      return minutes > 0 && still ? `${inHours(minutes)}${words}, no progress` : null;
    });
  },
};

export const progressWithoutHours: Finding = {
  key: "progressWithoutHours",
  about: "reporting",
  name: "Progress without hours",
  why: "Something is earned that cost nothing: time is missing, or the progress is.",
  mend: "progress",
  find: (ground, past) => {
    const { last, words, minutesOn } = sinceLast(ground, past);
    return faulty(underWay(ground), ({ activity }) => {
      const [then, now] = [last?.activities.get(activity.id)?.percent ?? 0, activity.percent ?? 0];
      const planned = ground.assignments.get(activity.id)?.some(({ plannedMinutes }) => plannedMinutes > 0) === true;
      return now > then && planned && minutesOn(activity.id) <= 0 ? `from ${then}% to ${now}%${words}, no hours` : null;
    });
  },
};
