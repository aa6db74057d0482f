/** How the rows of one list came of those of another. */
export interface Succession {
  /** By position: where the row stood before, -1 where it is new. */
  readonly from: Int32Array;
  /** By position before: where the row stands now, -1 where it is gone. */
  readonly to: Int32Array;
  /** Positions of rows that are new, or are other objects than before. */
  readonly changed: readonly number[];
  /** Positions before of rows that are gone. */
  readonly gone: readonly number[];
  /** Whether each row stands where it stood, and none came or went. */
  readonly inPlace: boolean;
}

/** What tells a row from the others: its id, or itself where rows of its table have none. */
const keyOf = (row: object): unknown => ("id" in row ? row.id : row);

interface Known {
  /** Held weakly, since each list would else hold all that ever came before it. */
  readonly before: WeakRef<readonly object[]>;
  readonly found: Succession;
}
const known = new WeakMap<readonly object[], Known>();

/**
 * How a list of rows came of another, found once: rows with an id are the same by it, others by being the same object.
 * Mostly nearly all of them stand where they stood, so both lists are read from either end as far as they agree.
 */
export function succession(before: readonly object[], after: readonly object[]): Succession {
  const last = known.get(after);
  if (last?.before.deref() === before) return last.found;
  const found = trace(before, after);
  known.set(after, { before: new WeakRef(before), found });
  return found;
}

/** How far two lists agree from their beginning, and to where from their end. */
function commonEnds(before: readonly object[], after: readonly object[]) {
  const isSame = (was: number, now: number): boolean =>
    before[was] === after[now] || keyOf(before[was]!) === keyOf(after[now]!);
  let head = 0;
  while (head < before.length && head < after.length && isSame(head, head)) head++;
  let [wasEnd, nowEnd] = [before.length, after.length];
  for (; wasEnd > head && nowEnd > head && isSame(wasEnd - 1, nowEnd - 1); wasEnd--) nowEnd--;
  return { head, wasEnd, nowEnd };
}

function trace(before: readonly object[], after: readonly object[]): Succession {
  const { head, wasEnd, nowEnd } = commonEnds(before, after);
  const from = new Int32Array(after.length).fill(-1);
  const to = new Int32Array(before.length).fill(-1);
  const meet = (was: number, now: number): void => {
    from[now] = was;
    to[was] = now;
  };
  for (let at = 0; at < head; at++) meet(at, at);
  for (let at = wasEnd; at < before.length; at++) meet(at, at - wasEnd + nowEnd);
  const places = new Map<unknown, number>();
  for (let was = head; was < wasEnd; was++) places.set(keyOf(before[was]!), was);
  for (let now = head; now < nowEnd && places.size > 0; now++) {
    const was = places.get(keyOf(after[now]!));
    if (was !== undefined) meet(was, now);
  }
  const changed: number[] = [];
  for (let now = 0; now < after.length; now++) if (after[now] !== before[from[now]!]) changed.push(now);
  const gone: number[] = [];
  for (let was = head; was < wasEnd; was++) if (to[was] === -1) gone.push(was);
  const inPlace = head === before.length && head === after.length;
  return { from, to, changed, gone, inPlace };
}
