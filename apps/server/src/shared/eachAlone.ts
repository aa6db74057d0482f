/**
 * Does work for each of some things, one after the other; one that fails does not keep the others waiting.
 * @throws {AggregateError} of all that failed, once everything else is done
 */
export async function eachAlone<T>(things: Iterable<T>, work: (thing: T) => Promise<unknown>): Promise<void> {
  const failures: unknown[] = [];
  for (const thing of things) await work(thing).catch((error: unknown) => failures.push(error));
  if (failures.length > 0) throw new AggregateError(failures, `${failures.length} of these failed`);
}
