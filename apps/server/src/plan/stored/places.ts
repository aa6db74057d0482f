import { longestAscending } from "@chronometra/core";

/** Where the rows of a table stand in the database, by key: numbers that ascend in the order of the table. */
export type Places = ReadonlyMap<string, number>;

/** Rows that stand closer than this leave no room for another between them; those around are spread. */
const LEAST_GAP = 1e-6;
/** How many rows on each side give way first. */
const FIRST_SPREAD = 16;

/** Which rows of an order keep the place they have: all that are known, where they ascend, else as many as can. */
function staying(order: readonly string[], known: Places): boolean[] {
  const stays = order.map((key) => known.has(key));
  const there = stays.flatMap((stays, i) => (stays ? [i] : []));
  const places = there.map((i) => known.get(order[i]!)!);
  if (places.every((place, n) => n === 0 || place > places[n - 1]!)) return stays;
  const kept = longestAscending(places);
  there.forEach((i, n) => (stays[i] = kept.has(n)));
  return stays;
}

/**
 * Places for rows in an order, those that ascend already kept and the others put between them; where there is no room,
 * the rows around give way.
 */
export function placesBetween(order: readonly string[], known: Places): Places {
  const stays = staying(order, known);
  const places = order.map((key) => known.get(key) ?? 0);
  const end = order.length;
  const nextStaying = (i: number): number => {
    while (i < end && !stays[i]) i++;
    return i;
  };
  /** Before what the rows of a run begin, and how far they stand apart; at both ends of a table there is all room. */
  const roomIn = (from: number, to: number): { last: number; gap: number } => {
    const run = to - from + 1;
    if (to === end) return { last: from === 0 ? -1 : places[from - 1]!, gap: 1 };
    if (from === 0) return { last: places[to]! - run, gap: 1 };
    return { last: places[from - 1]!, gap: (places[to]! - places[from - 1]!) / run };
  };
  for (let i = nextStaysNot(stays, 0); i < end; i = nextStaysNot(stays, i)) {
    let [from, to] = [i, nextStaying(i)];
    let room = roomIn(from, to);
    for (let spread = FIRST_SPREAD; room.gap < LEAST_GAP; spread *= 2) {
      from = Math.max(0, from - spread);
      to = nextStaying(Math.min(end, to + spread));
      room = roomIn(from, to);
    }
    for (let n = from; n < to; n++) places[n] = room.last + room.gap * (n - from + 1);
    i = to;
  }
  return new Map(order.map((key, i) => [key, places[i]!]));
}

function nextStaysNot(stays: readonly boolean[], from: number): number {
  const at = stays.indexOf(false, from);
  return at < 0 ? stays.length : at;
}

const known = new WeakMap<object, Places>();

/** Where the rows of a table stand, as far as this server read or wrote this very table. */
export const placesOf = (rows: object): Places | undefined => known.get(rows);

/** Notes where the rows of a table stand: tables never change, so it holds for as long as the table is there. */
export const rememberPlaces = (rows: object, places: Places): void => void known.set(rows, places);
