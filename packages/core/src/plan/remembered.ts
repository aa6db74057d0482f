/**
 * A derivation that is made once of each value and found again while that value lives: plans and their lists are never
 * altered, so what follows from one of them holds for as long as it is at hand.
 * @param derive what follows from the value alone
 */
export function remembered<K extends object, V>(derive: (from: K) => V): (from: K) => V {
  const known = new WeakMap<K, { readonly value: V }>();
  return (from) => {
    let found = known.get(from);
    if (found === undefined) known.set(from, (found = { value: derive(from) }));
    return found.value;
  };
}
