import { actualStartAt } from "../../plan/check/checkActivity.ts";
import { epochDay, formatDate, startDayOf } from "../../time/instant.ts";
import { faulty } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";
import { bookedSince, progressed, underWay } from "./news.ts";

export const noUpdate: Finding = {
  key: "noUpdate",
  about: "reporting",
  name: "No news",
  why: "Work that has begun and of which nothing is heard has stopped, or its report has.",
  mend: "progress",
  find: (ground, { periods, silentDays }) => {
    const { dataDay } = ground;
    if (dataDay === null) return [];
    const booked = bookedSince(ground, null);
    return faulty(underWay(ground), ({ activity }) => {
      let last = Math.max(startDayOf(actualStartAt(activity.actualStart!)), booked.get(activity.id)?.last ?? 0);
      // A change since an issued period came after its data date, whenever exactly.
      const changedAfter = periods.find(
        (period) => period.dataDay < dataDay && progressed(period.activities.get(activity.id), activity),
      );
      if (changedAfter !== undefined) last = Math.max(last, changedAfter.dataDay + 1);
      else if (periods.length === 0 && (activity.percent ?? 0) > 0) return null;
      return dataDay - last > silentDays ? `nothing since ${formatDate(epochDay(last))}` : null;
    });
  },
};
