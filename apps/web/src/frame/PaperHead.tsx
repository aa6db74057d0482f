import { useQuery } from "@tanstack/react-query";
import { periodQuery } from "../cycle/queries.ts";
import { todayHere } from "../shared/words/today.ts";
import { dateWords } from "../shared/words/words.ts";

/** On paper only, above any page: whose portfolio it is, the period, and the day it was printed. */
export function PaperHead() {
  const { data: period } = useQuery(periodQuery);
  if (period === undefined) return null;
  return (
    <div className="paper-only border-b rule pb-1 text-xs">
      {period.organisation}
      {period.number !== null && ` · period ${period.number} to ${dateWords(period.dataDate)}`} · printed{" "}
      {dateWords(todayHere())}
    </div>
  );
}
