/** A derivation that is made once of each value. */
export interface Remembered<K extends object, V> {
  (from: K): V;
  /** Says that what was derived of one value holds of another as it stands. */
  holdsOf(other: K, from: K): void;
}

/**
 * A derivation that is made once of each value and found again while that value lives: plans and their lists are never
 * altered, so what follows from one of them holds for as long as it is at hand.
 * @param derive what follows from the value alone
 */
export function remembered<K extends object, V>(derive: (from: K) => V): Remembered<K, V> {
  const known = new WeakMap<K, { readonly value: V }>();
  const find = (from: K): V => {
    let found = known.get(from);
    if (found === undefined) known.set(from, (found = { value: derive(from) }));
    return found.value;
  };
  const holdsOf = (other: K, from: K): void => {
    const found = known.get(from);
    if (found !== undefined && !known.has(other)) known.set(other, found);
  };
  return Object.assign(find, { holdsOf });
}
