import type { Risk } from "@chronometra/core";
import { draftOf, NO_POINTS, NO_RISK, readRisk, type RiskDraft } from "./riskDraft.ts";

const UNITS = { dayMinutes: 480, minorDigits: 2 };
const STORM: RiskDraft = {
  name: " Storm ",
  chance: "12,5",
  effects: [
    { activity: "dig", days: ["2", "2.5", "10"] },
    { activity: "pour", days: ["0", "0", "1"] },
  ],
  cost: ["100", "250.50", "1000"],
};

describe("a risk as it is typed", () => {
  it("is read with days in the calendar's own and amounts in minor units", () => {
    expect(readRisk(STORM, UNITS)).toEqual({
      name: "Storm",
      probability: 0.125,
      effects: [
        { activity: "dig", minutes: { low: 960, likely: 1200, high: 4800 } },
        { activity: "pour", minutes: { low: 0, likely: 0, high: 480 } },
      ],
      costMinor: { low: 10_000, likely: 25_050, high: 100_000 },
    });
  });

  it("may bear on nothing where it costs, and cost nothing where it bears on something", () => {
    expect(readRisk({ ...STORM, effects: [] }, UNITS)).toMatchObject({ effects: [], costMinor: { likely: 25_050 } });
    expect(readRisk({ ...STORM, cost: NO_POINTS }, UNITS)).not.toHaveProperty("costMinor");
  });

  it("is the same again once it is read, whatever it says", () => {
    const risk: Risk = {
      id: "r",
      name: "Storm",
      probability: 0.333,
      effects: [{ activity: "dig", minutes: { low: 100, likely: 481, high: 9999 } }],
      costMinor: { low: 1, likely: 2, high: 3 },
    };
    expect(readRisk(draftOf(risk, UNITS), UNITS)).toEqual((({ id: _, ...rest }) => rest)(risk));
  });

  it.each<[string, Partial<RiskDraft>, RegExp]>([
    ["no name", { name: " " }, /what may happen/],
    ["no chance", { chance: "often" }, /as a percent/],
    ["no chance at all", { chance: "0" }, /as a percent/],
    ["more than certain", { chance: "101" }, /as a percent/],
    ["nothing that it does", { effects: [], cost: NO_POINTS }, /Select an open activity/],
    ["days that fall", { effects: [{ activity: "dig", days: ["3", "2", "5"] }] }, /three numbers of days/],
    ["a day that is missing", { effects: [{ activity: "dig", days: ["3", "", "5"] }] }, /three numbers of days/],
    ["days below nothing", { effects: [{ activity: "dig", days: ["-1", "2", "5"] }] }, /three numbers of days/],
    ["amounts that fall", { cost: ["3", "2", "5"] }, /three amounts/],
    ["an amount that could be two", { cost: ["1.200", "1.300", "1.400"] }, /three amounts.*without marks/],
    ["an amount that is missing", { cost: ["", "2", "5"] }, /three amounts/],
  ])("with %s says so", (_, part, why) => {
    expect(readRisk({ ...STORM, ...part }, UNITS)).toMatch(why);
  });

  it("says first what is missing where nothing is typed", () => {
    expect(readRisk(NO_RISK, UNITS)).toMatch(/what may happen/);
  });
});
