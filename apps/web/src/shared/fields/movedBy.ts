/** Moves one part of a list by one place. */
export function movedBy<T>(list: readonly T[], at: number, by: -1 | 1): T[] {
  const next = [...list];
  const [each] = next.splice(at, 1);
  next.splice(at + by, 0, each!);
  return next;
}
