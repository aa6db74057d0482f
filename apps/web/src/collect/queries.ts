import { keepPreviousData, queryOptions, type QueryClient, type QueryKey } from "@tanstack/react-query";
import type { Endings, WindowsHeld } from "@chronometra/contract";
import { call } from "../shared/session/api.ts";

export const deskQuery = queryOptions({ queryKey: ["desk"], queryFn: () => call("GET /api/desk") });
export const reportsQuery = queryOptions({ queryKey: ["reports"], queryFn: () => call("GET /api/reports") });
export const effectQuery = (ids: readonly string[], hold: WindowsHeld, endings: Endings) =>
  queryOptions({
    queryKey: ["reports", "effect", hold, endings, ...ids],
    queryFn: () => call("POST /api/reports/effect", { body: { ids: [...ids], hold, endings } }),
    enabled: ids.length > 0,
    retry: false,
  });

/** One's own week around a day. */
export const weekQuery = (date: string) =>
  queryOptions({
    queryKey: ["desk", "week", date],
    queryFn: () => call("GET /api/desk/week/:date", { params: { date } }),
  });

/** Everyone's week around a day. */
export const peopleWeekQuery = (date: string) =>
  queryOptions({
    queryKey: ["reports", "people", date],
    queryFn: () => call("GET /api/time/:date", { params: { date } }),
  });

/** What is blocked everywhere, were it to stay so for some working days more. */
export const blockedQuery = (days: number) =>
  queryOptions({
    queryKey: ["blocked", days],
    queryFn: () => call("GET /api/blocked/:days", { params: { days: String(days) } }),
    placeholderData: keepPreviousData,
  });

/** What approving people's weeks would accept and move. */
export const weeksEffectQuery = (date: string, people: readonly string[], endings: Endings) =>
  queryOptions({
    queryKey: ["reports", "weeks", date, endings, ...people],
    queryFn: () => call("POST /api/time/:date/effect", { params: { date }, body: { people: [...people], endings } }),
    enabled: people.length > 0,
    retry: false,
  });

const PREVIEWS = [
  ["reports", "effect"],
  ["reports", "weeks"],
] as const;

/**
 * Has everything fetched anew after a decision, but for previews: what they were of has been decided, and is asked of
 * no more.
 */
export function refetchDecided(client: QueryClient): void {
  const isPreview = (key: QueryKey): boolean =>
    PREVIEWS.some(([first, second]) => key[0] === first && key[1] === second);
  void client.invalidateQueries({ predicate: ({ queryKey }) => !isPreview(queryKey) });
  for (const queryKey of PREVIEWS) void client.invalidateQueries({ queryKey, refetchType: "none" });
}
