import { Failure } from "./failure.ts";

/** How long a writer waits for its turn. */
const LONGEST_WAIT_MILLISECONDS = 5000;

/** Who is last in the row for a thing, by what is shared and the thing's name. */
const rows = new WeakMap<object, Map<string, Promise<unknown>>>();

/**
 * Does work once all others that named one of the same things before are done. Those who wait hold nothing.
 * @param among what the names belong to, such as a database
 * @throws {Failure} `busy` after five seconds of waiting
 */
export async function inTurn<T>(among: object, names: readonly string[], work: () => Promise<T>): Promise<T> {
  const last = rows.get(among) ?? new Map<string, Promise<unknown>>();
  rows.set(among, last);
  const before = names.flatMap((name) => last.get(name) ?? []);
  let leave!: () => void;
  const left = new Promise<void>((resolve) => (leave = resolve));
  // Whoever gives up waiting keeps its place until those before it have left, so that nobody overtakes them.
  const mine = Promise.all([...before, left]);
  for (const name of names) last.set(name, mine);
  void mine.then(() => names.forEach((name) => last.get(name) === mine && last.delete(name)));
  try {
    if (before.length > 0) await within(Promise.all(before));
    return await work();
  } finally {
    leave();
  }
}

async function within(waiting: Promise<unknown>): Promise<void> {
  let timer: NodeJS.Timeout | undefined;
  const tooLong = new Promise<never>(
    (_, reject) => (timer = setTimeout(() => reject(new Failure("busy")), LONGEST_WAIT_MILLISECONDS)),
  );
  try {
    await Promise.race([waiting, tooLong]);
  } finally {
    clearTimeout(timer);
  }
}
