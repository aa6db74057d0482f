import { longestAscending } from "@chronometra/core";

/**
 * Where the rows of a table stand in the database, in the order of the table: numbers that ascend. A row that stands
 * nowhere yet has none.
 */
export type Places = Float64Array;
/** Of a row that stands nowhere yet. */
export const NOWHERE = NaN;

/** Rows that stand closer than this leave no room for another between them; those around are spread. */
const LEAST_GAP = 1e-6;
/** How many rows on each side give way first. */
const FIRST_SPREAD = 16;

/** Marks the rows that keep the place they have: all that stand somewhere, where they ascend, else as many as can. */
function staying(before: Places): Uint8Array {
  const stays = new Uint8Array(before.length);
  let last = -Infinity;
  let ascend = true;
  for (let i = 0; i < before.length; i++) {
    const place = before[i]!;
    if (Number.isNaN(place)) continue;
    stays[i] = 1;
    if (place <= last) ascend = false;
    last = place;
  }
  if (ascend) return stays;
  const there = [...stays.keys()].filter((i) => stays[i] === 1);
  const kept = longestAscending(there.map((i) => before[i]!));
  there.forEach((i, n) => (stays[i] = kept.has(n) ? 1 : 0));
  return stays;
}

/**
 * Places for rows in an order, those that ascend already kept and the others put between them; where there is no room,
 * the rows around give way.
 * @param before where each stands so far
 */
export function placesBetween(before: Places): Places {
  const stays = staying(before);
  const places = before.slice();
  const end = places.length;
  const nextWhere = (i: number, stayed: number): number => {
    const at = stays.indexOf(stayed, i);
    return at < 0 ? end : at;
  };
  /** Before what the rows of a run begin, and how far they stand apart; at both ends of a table there is all room. */
  const roomIn = (from: number, to: number): { last: number; gap: number } => {
    const run = to - from + 1;
    if (to === end) return { last: from === 0 ? -1 : places[from - 1]!, gap: 1 };
    if (from === 0) return { last: places[to]! - run, gap: 1 };
    return { last: places[from - 1]!, gap: (places[to]! - places[from - 1]!) / run };
  };
  for (let i = nextWhere(0, 0); i < end; i = nextWhere(i, 0)) {
    let [from, to] = [i, nextWhere(i, 1)];
    let room = roomIn(from, to);
    for (let spread = FIRST_SPREAD; room.gap < LEAST_GAP; spread *= 2) {
      from = Math.max(0, from - spread);
      to = nextWhere(Math.min(end, to + spread), 1);
      room = roomIn(from, to);
    }
    for (let n = from; n < to; n++) places[n] = room.last + room.gap * (n - from + 1);
    i = to;
  }
  return places;
}

const known = new WeakMap<object, Places>();

/** Where the rows of a table stand, as far as this server read or wrote this very table. */
export const placesOf = (rows: object): Places | undefined => known.get(rows);

/** Notes where the rows of a table stand: tables never change, so it holds for as long as the table is there. */
export const rememberPlaces = (rows: object, places: Places): void => void known.set(rows, places);
