import { LONGEST_CALENDAR } from "@chronometra/contract";
import { parseDate } from "@chronometra/core";
import type { Request } from "express";
import { serve, type Serving } from "../access/serve.ts";
import { Failure } from "../shared/failure.ts";
import { calendarOf, type AskedDays } from "./calendarDays.ts";

function askedIn({ query: { from, to, own, project } }: Request): AskedDays {
  const [first, last] = [from, to].map((day) => (typeof day === "string" ? parseDate(day) : null));
  if (first == null || last == null || last < first || last - first >= LONGEST_CALENDAR)
    throw new Failure(
      "invalid",
      `Say the first and the last day, from and to, each as YYYY-MM-DD, ${LONGEST_CALENDAR} days at most.`,
    );
  return {
    from: from as string,
    to: to as string,
    own: own === "1",
    project: typeof project === "string" ? project : null,
  };
}

/** What falls on which day. */
export function calendarRoutes(serving: Serving): void {
  serve(serving, "GET /api/calendar", ({ database, me, request }) => calendarOf(database, me, askedIn(request)));
}
