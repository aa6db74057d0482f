import { brokenRules, DEFAULT_THRESHOLDS, limitsIn, type Standing } from "./thresholds.ts";
import { thresholdsSchema } from "./thresholdsSchema.ts";

const fine: Standing = { spi: 1, cpi: 1, spit: 1, drift: 0, moved: 0, bac: 1000, eac: 1000, lost: 0 };
const all = {
  spiBelow: 0.9,
  cpiBelow: 0.95,
  spitBelow: 0.8,
  driftOver: 10,
  movedOver: 2,
  overrunOver: 5,
  deadlines: true,
};
const broken = (part: Partial<Standing>) =>
  brokenRules({ ...fine, ...part }, all).map(({ rule, value }) => [rule, value]);

describe("thresholds", () => {
  it("are kept by what stands on them, and broken by what lies beyond", () => {
    expect(broken({ spi: 0.9, cpi: 0.95, spit: 0.8, drift: 10, moved: 2, eac: 1050 })).toEqual([]);
    expect(broken({ spi: 0.89, cpi: 0.94, spit: 0.79, drift: 10.1, moved: 2.5, eac: 1051, lost: 2 })).toEqual([
      ["spiBelow", 0.89],
      ["cpiBelow", 0.94],
      ["spitBelow", 0.79],
      ["driftOver", 10.1],
      ["movedOver", 2.5],
      ["overrunOver", 5.1],
      ["deadlines", 2],
    ]);
  });

  it("are not broken by what is not defined", () => {
    expect(broken({ spi: null, cpi: null, spit: null, drift: null, moved: null, bac: 0, eac: 10 })).toEqual([]);
    expect(broken({ eac: null })).toEqual([]);
    expect(broken({ bac: null })).toEqual([]);
    expect(broken({ bac: null, eac: null })).toEqual([]);
  });

  it("say nothing where there is no limit", () => {
    // A cost that was taken back makes an index negative.
    expect(brokenRules({ ...fine, spit: -0.1 }, DEFAULT_THRESHOLDS)).toEqual([]);
    expect(brokenRules({ ...fine, spit: 0.1, drift: 400, moved: 99, eac: 9000 }, DEFAULT_THRESHOLDS)).toEqual([]);
  });

  it("refuse a limit that cannot be", () => {
    expect(thresholdsSchema.safeParse({ ...all, spiBelow: 0 }).success).toBe(false);
    expect(thresholdsSchema.safeParse({ ...all, driftOver: -1 }).success).toBe(false);
  });
});

describe("limits of groups", () => {
  const strict = { ...DEFAULT_THRESHOLDS, spiBelow: 0.97 };
  const GROUPS = [
    { id: "port", parent: null, thresholds: strict },
    { id: "locks", parent: "port", thresholds: null },
    { id: "coast", parent: null, thresholds: null },
    { id: "round", parent: "about", thresholds: null },
    { id: "about", parent: "round", thresholds: null },
  ];
  const of = (group: string | null) => limitsIn(GROUPS, DEFAULT_THRESHOLDS, group);

  it("are the nearest that somebody gave, the house's where nobody did", () => {
    expect([of("port"), of("locks")]).toEqual([strict, strict]);
    expect([of("coast"), of(null), of("gone")]).toEqual(Array(3).fill(DEFAULT_THRESHOLDS));
  });

  it("end even where groups lie in each other", () => {
    expect(of("round")).toBe(DEFAULT_THRESHOLDS);
  });
});
