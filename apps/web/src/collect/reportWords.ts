import type { Report } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";

/** What a report says: "3.5 h, 60% done, 12 h left". */
export function reportWords({ minutes, percent, remainingMinutes }: Pick<Report, "minutes" | "percent" | "remainingMinutes">): string {
  const parts = [minutes === null ? "" : formatHours(minutes), percent === null ? "" : `${percent}% done`, remainingMinutes === null ? "" : `${formatHours(remainingMinutes)} left`];
  return parts.filter((part) => part !== "").join(", ");
}
