import { offence } from "../check.ts";
import type { Finding } from "../finding.ts";
import { lastPeriod } from "./news.ts";

export const percentFell: Finding = {
  key: "percentFell",
  about: "reporting",
  name: "Percent that went back",
  why: "More was reported done than is done: what was earned on it has to be given back.",
  mend: "credit",
  find: (ground, past) => {
    const last = lastPeriod(ground, past);
    return ground.scheduled.flatMap((placed) => {
      const [then, now] = [last?.activities.get(placed.activity.id)?.percent ?? 0, placed.activity.percent ?? 0];
      return now < then && placed.isOpen ? [offence(placed, () => `${then}% in period ${last!.number}, ${now}% now`)] : [];
    });
  },
};
