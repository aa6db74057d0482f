import fc from "fast-check";
import { NOWHERE, placesBetween } from "./places.ts";

type Places = ReadonlyMap<string, number>;
const known = (keys: readonly string[]): Places => new Map(keys.map((key, i) => [key, i]));
/** Places of keys in an order, by key. */
const placed = (order: readonly string[], before: Places): Places => {
  const places = placesBetween(Float64Array.from(order, (key) => before.get(key) ?? NOWHERE));
  return new Map(order.map((key, i) => [key, places[i]!]));
};

describe("places of rows", () => {
  it("one row put between two others is the only one that gets a new place", () => {
    expect([...placed(["a", "x", "b", "c"], known(["a", "b", "c"]))]).toEqual([
      ["a", 0],
      ["x", 0.5],
      ["b", 1],
      ["c", 2],
    ]);
    expect([...placed(["c", "a", "b"], known(["a", "b", "c"]))]).toEqual([
      ["c", -1],
      ["a", 0],
      ["b", 1],
    ]);
    expect([...placed(["a", "b", "x", "y"], known(["a", "b"]))]).toEqual([
      ["a", 0],
      ["b", 1],
      ["x", 2],
      ["y", 3],
    ]);
  });

  it("ascend in the order asked for, whatever came, went and moved, and as many stay as can", () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.nat(20), { maxLength: 12 }),
        fc.uniqueArray(fc.nat(20), { maxLength: 12 }),
        (was, will) => {
          const before = known(was.map(String));
          const places = placed(will.map(String), before);
          const order = will.map((key) => places.get(String(key))!);
          expect(order).toEqual([...order].sort((a, b) => a - b));
          expect(new Set(order).size).toBe(will.length);
          const moved = [...places].filter(([key, place]) => before.has(key) && before.get(key) !== place).length;
          // Where nothing changed places with anything, nothing is written anew.
          const kept = was.filter((key) => will.includes(key));
          if (kept.every((key, i) => will.filter((each) => was.includes(each))[i] === key)) expect(moved).toBe(0);
        },
      ),
    );
  });

  it("a thousand rows put at one place, above or below each other, move few others", () => {
    for (const at of [0, 1, 50, 99, 100])
      for (const above of [true, false]) {
        let order = Array.from({ length: 100 }, (_, i) => `r${i}`);
        let places: Places = known(order);
        let moved = 0;
        for (let i = 0; i < 1000; i++) {
          const before = places;
          order = order.toSpliced(above ? at : at + i, 0, `x${i}`);
          places = placed(order, before);
          moved += [...places].filter(([key, place]) => before.has(key) && before.get(key) !== place).length;
        }
        const stand = order.map((key) => places.get(key)!);
        expect(stand.every((place, i) => i === 0 || place > stand[i - 1]!)).toBe(true);
        expect(moved).toBeLessThan(8000);
      }
  });
});
