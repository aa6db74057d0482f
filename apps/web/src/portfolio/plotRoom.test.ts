import fc from "fast-check";
import { labelShifts, reachOf } from "./plotRoom.ts";

describe("room in the plot of SPI and CPI", () => {
  it("1 and every point are within the axis", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 5, noNaN: true })), (values) => {
        const { min, max } = reachOf(values);
        for (const value of [1, ...values]) expect(value >= min && value <= max).toBe(true);
      }),
    );
  });

  it("no label lies on another nor, where there is room, on a point, and one that stands alone stays", () => {
    const point = fc.record({ x: fc.integer({ min: 0, max: 400 }), y: fc.integer({ min: 0, max: 200 }) });
    fc.assert(
      fc.property(fc.array(point, { maxLength: 30 }), (points) => {
        const shifts = labelShifts(points);
        const placed = points.map(({ x, y }, i) => ({ x, y: y + shifts[i]! }));
        for (const [i, a] of placed.entries())
          for (const b of placed.slice(i + 1))
            expect(Math.abs(a.x - b.x) >= 52 || Math.abs(a.y - b.y) >= 13).toBe(true);
      }),
    );
    expect(
      labelShifts([
        { x: 10, y: 10 },
        { x: 200, y: 12 },
        { x: 12, y: 11 },
      ]),
    ).toEqual([0, 0, 12]);
    // A point stands where the first label would be.
    const [aside] = labelShifts([
      { x: 10, y: 10 },
      { x: 30, y: 10 },
    ]);
    expect(Math.abs(aside!)).toBe(12);
  });
});
