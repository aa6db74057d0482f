import fc from "fast-check";
import { DEFAULT_THRESHOLDS, brokenRules, type Standing } from "../performance/thresholds.ts";
import { parseDate } from "../time/instant.ts";
import { beginTexts } from "./beginTexts.ts";
import { drawCurve, drawTrend, LETTER, roundStep, spread, type Drawing } from "./drawing.ts";
import { ASPECTS, RATINGS, type ReportFacts } from "./facts.ts";
import { suggestRatings } from "./suggestRatings.ts";

const NOTHING: ReportFacts = {
  currency: "EUR",
  minorDigits: 2,
  isApproved: true,
  finish: null,
  approvedFinish: null,
  drift: null,
  finishBefore: null,
  moved: null,
  since: null,
  figures: null,
  deadlines: [],
  milestones: [],
  done: 0,
  activities: 0,
  unbaselined: 0,
  dropped: 0,
  requestsWaiting: 0,
  risks: { count: 0, expectedMinor: 0, contingencyMinor: 0, blocked: 0 },
  people: { missing: [], overloaded: [], unfilled: [] },
  broken: [],
};
const plain = (text: string): string => text.replaceAll("\u00a0", " ");

describe("suggested ratings", () => {
  const THRESHOLDS = { ...DEFAULT_THRESHOLDS, driftOver: 10, overrunOver: 10 };
  const STANDING: Standing = {
    spi: 1,
    cpi: 1,
    spit: null,
    drift: 0,
    moved: null,
    bac: 100,
    eac: 100,
    lost: 0,
  };
  const suggested = (standing: Partial<Standing>) =>
    suggestRatings({
      ...NOTHING,
      broken: brokenRules({ ...STANDING, ...standing }, THRESHOLDS).map((rule) => ({ ...rule, words: rule.rule })),
    });

  // Common practice, no source: broken asks for care, by more than twice the allowance is trouble.
  it.each([
    ["nothing is broken", {}, "well", "well"],
    ["SPI just below its limit", { spi: 0.89 }, "care", "well"],
    ["SPI at twice the allowance", { spi: 0.8 }, "care", "well"],
    ["SPI beyond twice the allowance", { spi: 0.79 }, "trouble", "well"],
    ["CPI below its limit", { cpi: 0.85 }, "well", "care"],
    ["an overrun of 11%", { eac: 111 }, "well", "care"],
    ["an overrun of 21%", { eac: 121 }, "well", "trouble"],
    ["11 days late", { drift: 11 }, "care", "well"],
    ["21 days late", { drift: 21 }, "trouble", "well"],
    ["a deadline broken", { lost: 1 }, "trouble", "well"],
  ])("%s", (_name, standing, schedule, cost) => {
    const found = suggested(standing);
    expect([found.schedule.rating, found.cost.rating]).toEqual([schedule, cost]);
  });

  it("weigh what risks are expected to cost against the contingency, and what else stands open", () => {
    const risks = (expectedMinor: number, contingencyMinor: number) =>
      suggestRatings({ ...NOTHING, risks: { count: 1, expectedMinor, contingencyMinor, blocked: 0 } }).risks.rating;
    expect([risks(0, 0), risks(50, 100), risks(51, 100), risks(100, 100), risks(101, 100), risks(1, 0)]).toEqual([
      "well",
      "well",
      "care",
      "care",
      "trouble",
      "care",
    ]);
    const found = suggestRatings({
      ...NOTHING,
      unbaselined: 1,
      dropped: 2,
      requestsWaiting: 1,
      people: { missing: ["Ann"], overloaded: [], unfilled: [] },
    });
    expect([found.scope.rating, found.people.rating, found.cost.rating]).toEqual(["care", "care", "well"]);
    expect(found.scope.rules).toHaveLength(3);
    expect(suggestRatings({ ...NOTHING, isApproved: false }).scope).toEqual({
      rating: "care",
      rules: ["no plan is approved yet"],
    });
    expect(suggestRatings(NOTHING).risks.rules).toEqual(["no risk is recorded, and nothing is blocked"]);
    expect(found.overall).toEqual({ rating: "care", rules: ["as the worst of its sides: scope, people"] });
  });

  it("are overall as bad as the worst side, and each names a rule", () => {
    const standings = fc.record({
      spi: fc.double({ min: 0, max: 2, noNaN: true }),
      cpi: fc.double({ min: 0, max: 2, noNaN: true }),
      drift: fc.integer({ min: -50, max: 50 }),
      eac: fc.integer({ min: 0, max: 300 }),
      lost: fc.nat(2),
    });
    fc.assert(
      fc.property(standings, (standing) => {
        const { overall, ...sides } = suggested(standing);
        const worst = Math.max(...Object.values(sides).map(({ rating }) => RATINGS.indexOf(rating)));
        expect(RATINGS.indexOf(overall.rating)).toBe(worst);
        for (const side of Object.values(sides)) expect(side.rules.length).toBeGreaterThan(0);
      }),
    );
  });
});

describe("the texts that a report begins with", () => {
  it("say what there is not, where nothing is known", () => {
    expect(beginTexts({ ...NOTHING, isApproved: false })).toEqual({
      schedule: "Nothing is scheduled yet.",
      cost: "There is no approved budget to measure the cost against.",
      scope: "There is no scheduled work. No plan is approved yet.",
      risks: "No risk is recorded.",
      people: "Everybody has reported.",
      overall: "No limit of the portfolio is broken.",
    });
  });

  it("say figures and names", () => {
    const money = (value: number) => value as never;
    const found = beginTexts({
      ...NOTHING,
      currency: "KWD",
      minorDigits: 3,
      finish: "2026-11-27",
      approvedFinish: "2026-11-20",
      drift: 5,
      finishBefore: "2026-11-30",
      moved: -1,
      since: 8,
      figures: {
        bac: money(1_000_000),
        pv: money(500_000),
        ev: money(435_000),
        ac: money(500_000),
        spi: 0.87,
        cpi: 0.87,
        eac: money(1_149_000),
        vac: money(-149_000),
      },
      milestones: [
        { name: "Open", forecast: "2026-11-27", drift: 5, reached: false },
        { name: "Piles in", forecast: "2026-10-01", drift: 9, reached: true },
      ],
      deadlines: [{ name: "Open", deadline: "2026-11-25", marginDays: -2, state: "willBreach" }],
      done: 1,
      activities: 3,
      people: { missing: ["Ann", "Bo", "Cem", "Dag"], overloaded: ["Ann"], unfilled: ["diver"] },
    });
    expect(plain(found.schedule)).toBe(
      'The finish is forecast for 27 Nov 2026, 5 d late against the approved 20 Nov 2026; it moved 1 d earlier since period 8. Of what was planned to date 87% is earned (SPI 0.87). Furthest behind is the milestone "Open", 5 d late, now 27 Nov 2026. The promise of "Open" for 25 Nov 2026 is not kept as things stand: 2 d short.',
    );
    expect(plain(found.cost)).toBe(
      "Spent 500 KWD, earned 435 KWD (CPI 0.87). The estimate at completion is 1 149 KWD, 149 KWD over the budget of 1 000 KWD.",
    );
    expect(found.scope).toBe("1 of 3 activities is finished.");
    expect(found.people).toBe(
      "4 people have not reported: Ann, Bo, Cem and 1 more. 1 person has more to do than time in the next four weeks: Ann. 1 role has work in the next four weeks and nobody to do it: diver.",
    );
    expect(found.overall).toContain('Next comes the milestone "Open"');
  });

  it("say what was forecast before, where another finish was approved since", () => {
    const facts = { ...NOTHING, finish: "2026-11-27", approvedFinish: "2026-11-27", drift: 0, since: 8 };
    expect(beginTexts({ ...facts, finishBefore: "2026-12-04" }).schedule).toBe(
      "The finish is forecast for 27 Nov 2026, as approved; period 8 said 4 Dec 2026.",
    );
    expect(beginTexts({ ...facts, finishBefore: "2026-11-27" }).schedule).toContain("it has not moved since period 8");
  });
});

describe("drawings of a report", () => {
  const texts = ({ shapes }: Drawing) => shapes.flatMap((shape) => (shape.is === "text" ? [shape] : []));
  const dates = fc
    .uniqueArray(fc.integer({ min: parseDate("2020-01-01")!, max: parseDate("2030-01-01")! }), {
      minLength: 1,
      maxLength: 30,
    })
    .map((days) =>
      days.toSorted((a, b) => a - b).map((day) => new Date(Date.UTC(1990, 0, 1 + day)).toISOString().slice(0, 10)),
    );

  it("of any curve lie within their frame, with no label on another", () => {
    const curve = dates.chain((all) =>
      fc.record({
        currency: fc.constant("JPY"),
        minorDigits: fc.constantFrom(0, 2, 3),
        dataDate: fc.constantFrom(null, all[0]!),
        points: fc.tuple(
          ...all.map((date) =>
            fc.record({
              date: fc.constant(date),
              pv: fc.nat(1e9),
              ev: fc.option(fc.nat(1e9)),
              ac: fc.option(fc.nat(1e9)),
            }),
          ),
        ),
      }),
    );
    fc.assert(
      fc.property(curve, (drawn) => {
        const drawing = drawCurve(drawn);
        for (const shape of drawing.shapes)
          for (const [x, y] of shape.is === "line" ? shape.points : [[shape.x, shape.y] as const]) {
            expect(Number.isFinite(x) && Number.isFinite(y)).toBe(true);
            expect([x >= 0, x <= drawing.width, y >= -1, y <= drawing.height + 1]).toEqual([true, true, true, true]);
          }
        const ends = texts(drawing).filter(({ text }) => /^(planned|earned|spent) /.test(text));
        const heights = ends.map(({ y }) => y).toSorted((a, b) => a - b);
        heights.forEach((y, i) => i > 0 && expect(y - heights[i - 1]!).toBeGreaterThanOrEqual(LETTER));
      }),
    );
  });

  it("of a trend name each milestone once, in the ink of how it moved", () => {
    const { shapes } = drawTrend({
      dates: ["2026-09-25", "2026-10-30"],
      lines: [
        { name: "Put off", forecasts: ["2026-11-01", "2026-12-01"] },
        { name: "Brought forward", forecasts: ["2026-12-24", "2026-12-20"] },
        { name: "New", forecasts: [null, "2027-01-10"] },
        { name: "Gone", forecasts: [null, null] },
      ],
    });
    const named = shapes.flatMap((shape) => (shape.is === "text" && /^[A-Z]/.test(shape.text) ? [shape] : []));
    expect(named.map(({ text, ink }) => [text, ink]).toSorted()).toEqual([
      ["Brought forward 20 Dec", "earned"],
      ["New 10 Jan", "ink"],
      ["Put off 1 Dec", "late"],
    ]);
  });

  it("spread labels no further than they must, and keep their order", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 100, noNaN: true }), { maxLength: 8 }), (ys) => {
        const found = spread(
          ys.map((y) => ({ y })),
          12,
          100,
        );
        expect(found).toHaveLength(ys.length);
        found.forEach(({ y }, i) => i > 0 && expect(y - found[i - 1]!.y).toBeGreaterThanOrEqual(12 - 1e-9));
        const sorted = ys.toSorted((a, b) => a - b);
        if (sorted.every((y, i) => i === 0 || y - sorted[i - 1]! >= 12))
          expect(found.map(({ y }) => y)).toEqual(sorted);
      }),
    );
  });

  it("divide axes by round steps", () => {
    expect([4, 10, 90, 1000, 304_124, 0].map(roundStep)).toEqual([1, 2.5, 25, 250, 100_000, 1]);
    expect(ASPECTS).toHaveLength(6);
  });
});
