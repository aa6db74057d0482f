import { formatDate, parseInstant, remembered, startDayOf, type BaselineRow } from "@chronometra/core";

/** The days on which the activities of a baseline were to start, by id; of none where it was never approved. */
export const approvedStarts = (rows: readonly BaselineRow[] | undefined): ReadonlyMap<string, string> =>
  rows === undefined ? NOTHING : startsOf(rows);

const NOTHING: ReadonlyMap<string, string> = new Map();

const startsOf = remembered(
  (rows: readonly BaselineRow[]): ReadonlyMap<string, string> =>
    new Map(rows.map(({ id, start }) => [id, formatDate(startDayOf(parseInstant(start)!))])),
);
