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

/** A row, or the key of one. */
type Row = object | string;

/** What tells a row from the others: its id, or itself where rows of its table have none. */
const keyOf = (row: Row): unknown => (typeof row === "object" && "id" in row ? row.id : row);

interface Known {
  /** Held weakly, since each list would else hold all that ever came before it. */
  readonly before: WeakRef<readonly Row[]>;
  readonly found: Succession;
}
const known = new WeakMap<readonly Row[], Known>();

/**
 * How a list of rows, or of keys, came of another, found once: rows with an id are the same by it, others by being the
 * same object.
 * Mostly nearly all of them stand where they stood, so both lists are read from either end as far as they agree.
 */
export function succession(before: readonly Row[], after: readonly Row[]): Succession {
  const last = known.get(after);
  if (last?.before.deref() === before) return last.found;
  const found = trace(before, after);
  known.set(after, { before: new WeakRef(before), found });
  return found;
}

let counted = new Int32Array(0);
/** 0, 1, 2 ...: where rows stood that stand where they stood. */
function standing(count: number): Int32Array {
  if (counted.length < count) counted = new Int32Array(count * 2).map((_, at) => at);
  return counted.subarray(0, count);
}

/** How far two lists agree from their end, not below where they agree from their beginning. */
function commonEnd(before: readonly Row[], after: readonly Row[], head: number) {
  let [wasEnd, nowEnd] = [before.length, after.length];
  for (; wasEnd > head && nowEnd > head && isSame(before[wasEnd - 1]!, after[nowEnd - 1]!); wasEnd--) nowEnd--;
  return { wasEnd, nowEnd };
}

const isSame = (was: Row, now: Row): boolean => was === now || keyOf(was) === keyOf(now);

function trace(before: readonly Row[], after: readonly Row[]): Succession {
  const changed: number[] = [];
  const least = Math.min(before.length, after.length);
  let head = 0;
  for (; head < least; head++) {
    if (before[head] === after[head]) continue;
    if (!isSame(before[head]!, after[head]!)) break;
    changed.push(head);
  }
  if (head === before.length && head === after.length)
    return { from: standing(head), to: standing(head), changed, gone: [], inPlace: true };
  return traceMoved(before, after, head, changed);
}

function traceMoved(before: readonly Row[], after: readonly Row[], head: number, changed: number[]): Succession {
  const { wasEnd, nowEnd } = commonEnd(before, after, head);
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
  for (let now = head; now < after.length; now++) if (after[now] !== before[from[now]!]) changed.push(now);
  const gone: number[] = [];
  for (let was = head; was < wasEnd; was++) if (to[was] === -1) gone.push(was);
  return { from, to, changed, gone, inPlace: false };
}
