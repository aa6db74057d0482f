import { faulty } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";
import { lastPeriod } from "./news.ts";

export const percentFell: Finding = {
  key: "percentFell",
  about: "reporting",
  name: "Percent that went back",
  why: "More was reported done than is done: what was earned on it has to be given back.",
  mend: "progress",
  find: (ground, past) => {
    const last = lastPeriod(ground, past);
    if (last === null) return [];
    return faulty(ground.open, ({ activity }) => {
      const [then, now] = [last.activities.get(activity.id)?.percent ?? 0, activity.percent ?? 0];
      return now < then ? `${then}% in period ${last.number}, ${now}% now` : null;
    });
  },
};
