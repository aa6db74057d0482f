import type { Matter, MatterSettings } from "@chronometra/contract";
import fc from "fast-check";
import { bandOf, placeRisks, spreadIn } from "./matrix.ts";

const SETTINGS: MatterSettings = {
  severities: [
    { id: "s", name: "small" },
    { id: "m", name: "serious" },
    { id: "g", name: "grave" },
  ],
  fields: {},
};
const risk = (id: string, part: Partial<Matter> = {}): Matter =>
  ({
    ...{ id, kind: "risk", title: id, state: "open", severity: "m", chance: 0.4, before: null, residual: null },
    ...part,
  }) as Matter;

describe("the matrix of risks", () => {
  it("has bands that begin at their bounds", () => {
    expect([0, 0.09, 0.1, 0.29, 0.3, 0.5, 0.69, 0.7, 1].map(bandOf)).toEqual([0, 0, 1, 1, 2, 3, 3, 4, 4]);
  });

  it("shows where a risk is, came from and is to go, only where that is elsewhere", () => {
    const { placed } = placeRisks(
      [
        risk("moved", { before: { chance: 0.1, severity: "s" }, residual: { chance: 0.05, severity: "m" } }),
        risk("still", { before: { chance: 0.45, severity: "m" }, residual: { chance: 0.3, severity: "m" } }),
        risk("new", { before: { chance: 0.4, severity: null } }),
      ],
      SETTINGS,
    );
    expect(placed.map(({ at, was, then }) => [at, was, then])).toEqual([
      [
        { severity: 1, band: 2 },
        { severity: 0, band: 1 },
        { severity: 1, band: 0 },
      ],
      [{ severity: 1, band: 2 }, null, null],
      [{ severity: 1, band: 2 }, null, null],
    ]);
  });

  it("leaves out what is over, and names what has no severity or one that is gone", () => {
    const all = [
      risk("struck", { state: "struck" }),
      risk("issue", { kind: "issue" }),
      risk("unknown", { severity: null }),
      risk("gone", { severity: "x" }),
    ];
    const { placed, unplaced } = placeRisks(all, SETTINGS);
    expect([placed, unplaced.map(({ id }) => id)]).toEqual([[], ["unknown", "gone"]]);
  });

  it("lays risks of one spot beside each other, never on each other nor outside of it", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 200 }), (count) => {
        const spots = spreadIn(count);
        expect(new Set(spots.map(String)).size).toBe(count);
        expect(spots.flat().every((each) => Math.abs(each) < 0.5)).toBe(true);
      }),
    );
  });
});
