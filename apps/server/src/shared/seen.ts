import { Failure } from "./failure.ts";

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/**
 * Whether something that is written beside what its writer saw says anything new: said twice is said once.
 * @param what it is, as its writer calls it
 * @throws {Failure} conflict, where it does not say any more what the writer saw
 */
export function isNews(
  now: unknown,
  { was, value }: { readonly was: unknown; readonly value: unknown },
  what: string,
): boolean {
  if (same(now, value)) return false;
  if (!same(now, was))
    throw new Failure(
      "conflict",
      `${what} was changed by someone else meanwhile. Nothing was written; look at what stands there now.`,
    );
  return true;
}
