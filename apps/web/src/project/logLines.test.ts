import type { ProjectLine } from "@chronometra/contract";
import { DEFAULT_THRESHOLDS, figuresOf, type Sums } from "@chronometra/core";
import { doubtsOf, logLines, rulesBroken, trustOf } from "./logLines.ts";
import { inTreeOrder, OUTSIDE, pathOfProgramme } from "./programmeTree.ts";
import { driftPoints } from "../portfolio/DriftLine.tsx";
import { waysOf } from "../portfolio/SpiCpiPlot.tsx";

const figures = (ev: number, ac: number, pv = 1000) => figuresOf({ bac: 5000, pv, ev, ac, eacBottomUp: 5000 } as Sums);

function project(
  id: string,
  part: Partial<Omit<ProjectLine, "summary">> = {},
  summary: Partial<ProjectLine["summary"]> = {},
): ProjectLine {
  return {
    id,
    code: id.toUpperCase(),
    name: `Project ${id}`,
    programme: null,
    manager: "Pia",
    revision: 1,
    issuedDrift: 0,
    comparedNumber: 3,
    issuedNumber: 3,
    openDrift: null,
    closed: false,
    state: "running",
    stage: null,
    locked: null,
    missing: [],
    waiting: 0,
    mayEdit: true,
    values: {},
    says: null,
    ...part,
    summary: {
      currency: "EUR",
      minorDigits: 2,
      dataDate: "2026-03-31",
      baseline: 1,
      finish: "2026-06-30",
      baselineFinish: "2026-06-30",
      drift: 0,
      daysLeft: 60,
      done: 1,
      activities: 10,
      unscheduled: 0,
      unbaselined: 0,
      figures: figures(1000, 1000),
      spit: null,
      worst: null,
      deadlineCounts: {},
      endangered: [],
      ...summary,
    },
  };
}
const ANN = { id: "ann", name: "Ann" };
const deadline = (id: string, state: ProjectLine["summary"]["endangered"][number]["state"], marginDays: number) => ({
  id,
  name: id,
  deadline: "2026-05-01",
  finish: "2026-05-02",
  marginDays,
  state,
});
const RATES = {
  exchange: { currency: "EUR", minorDigits: 2, rates: [{ currency: "GBP", from: "2026-01-01", rate: 1.2 }] },
  on: "2026-03-31",
};
const line = (projects: ProjectLine[], about: string) =>
  logLines(projects, "2026-03-31", {}, RATES).find((each) => each.about === about)!;

describe("the log", () => {
  it("says that all is well where it is", () => {
    expect(logLines([project("a")], "2026-03-31", {}, RATES).map(({ words }) => words)).toEqual([
      "No finish has moved against period 3, as of 31 Mar 2026.",
      "No deadline is in danger.",
      "Nowhere did the work done cost more than its budget.",
      "Every plan is approved, dated, up to date and fit.",
      "Everyone has reported.",
    ]);
  });

  it("counts what moved, the furthest first, and leads to why", () => {
    const { words, rows } = line(
      [
        project("a", { issuedDrift: 2 }, { drift: 5 }),
        project("b", {}, { drift: 9 }),
        project("c", { issuedDrift: 4 }, { drift: 1 }),
        project("d", { issuedDrift: null }),
      ],
      "Moved",
    );
    expect(words).toBe(
      "2 projects finish later, 1 earlier against period 3, as of 31 Mar 2026; the furthest, Project b, 9 d later.",
    );
    expect(rows.map(({ project: id, words: days }) => [id, days])).toEqual([
      ["b", "9 d later"],
      ["a", "3 d later"],
      ["c", "3 d earlier"],
    ]);
    expect(rows[0]!.to).toBe("/projects/b/compare?from=period-3&to=plan&why=finish");
  });

  it("counts no closed project as moved, behind or breaking a limit; what it cost stays", () => {
    const closed = project("c", { closed: true }, { drift: -35, dataDate: "2026-01-31", figures: figures(1000, 1500) });
    const open = project("a", { issuedDrift: 2 }, { drift: 5 });
    expect(line([open, closed], "Moved").words).toBe(
      "1 project finishes later against period 3, as of 31 Mar 2026; the furthest, Project a, 3 d later.",
    );
    expect(line([open, closed], "Trust").rows).toEqual([]);
    expect(line([open, closed], "Cost").rows.map(({ project: id }) => id)).toEqual(["c"]);
    expect(
      [closed, { ...closed, closed: false }].map(
        (each) => rulesBroken(each, { thresholds: DEFAULT_THRESHOLDS, programmes: [] }).length,
      ),
    ).toEqual([0, 1]);
  });

  it("tells after issuing what the period shows, and of what is not issued yet as of when it stands", () => {
    const issued = project("a", { issuedDrift: 2, issuedNumber: 4, openDrift: 6 }, { drift: 9 });
    const { words, rows } = line([issued], "Moved");
    expect(words).toBe("1 project finishes later against period 3, as issued; the furthest, Project a, 4 d later.");
    expect(rows[0]!.to).toBe("/projects/a/compare?from=period-3&to=period-4&why=finish");
    expect(
      line([issued, project("b", {}, { drift: 1, dataDate: "2026-02-28" }), project("c", {}, { drift: -1 })], "Moved")
        .words,
    ).toBe(
      "2 projects finish later, 1 earlier against period 3, 1 as of 31 Mar 2026, 1 as of 28 Feb 2026, 1 as issued; the furthest, Project a, 4 d later.",
    );
    expect(line([project("a", { issuedDrift: null, comparedNumber: null })], "Moved").words).toBe(
      "No period has been issued yet that movements could be told against.",
    );
  });

  it("counts promises by state, the thinnest first", () => {
    const { words, rows } = line(
      [
        project("a", {}, { endangered: [deadline("x", "tight", 2)] }),
        project("b", {}, { endangered: [deadline("v", "breached", -9), deadline("w", "willBreach", -3)] }),
      ],
      "Promises",
    );
    expect(words).toBe("1 deadline is broken, 1 will break, 1 tight.");
    expect(rows.map(({ key }) => key)).toEqual(["b v", "b w", "a x"]);
  });

  it("adds up what is over, in the group's currency where they are several", () => {
    const over = [
      project("a", {}, { figures: figures(1000, 31_000) }),
      project("b", {}, { figures: figures(1000, 21_000) }),
    ];
    expect(line(over, "Cost").words).toBe("In 2 projects the work done cost more than its budget, 500 EUR together.");
    expect(line([over[0]!, project("c", {}, { currency: "GBP", figures: figures(0, 500) })], "Cost").words).toBe(
      "In 2 projects the work done cost more than its budget, 306 EUR together.",
    );
    expect(line([over[0]!, project("c", {}, { currency: "KWD", figures: figures(0, 500) })], "Cost").words).toBe(
      "In 2 projects the work done cost more than its budget; together not told, without a rate of KWD.",
    );
  });

  it("doubts plans that are not approved, not up to date, or not whole", () => {
    expect(doubtsOf(project("a", {}, { baseline: null, unscheduled: 3 }), null, {})).toEqual([
      "no approved plan to measure against",
    ]);
    expect(
      doubtsOf(project("a", {}, { dataDate: "2026-02-28", unscheduled: 1, unbaselined: 2 }), "2026-03-31", {}),
    ).toEqual(["figures as of 28 Feb 2026", "1 activity without dates", "2 activities in no baseline"]);
  });

  it("doubts plans that fail a grave check, by the portfolio's limits", () => {
    const quality = [0.2, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 1, 1, 1];
    expect(doubtsOf(project("a", {}, { quality }), "2026-03-31", {})).toEqual(["plan not fit: missing logic"]);
    expect(doubtsOf(project("a", {}, { quality }), "2026-03-31", { 1: 0.25 })).toEqual([]);
    expect(trustOf(project("a", {}, { quality: quality.with(0, 0).with(9, 0.5) }), {})).toEqual({
      failed: [10],
      fitness: "mend",
    });
  });

  it("counts someone who is missing in two projects once", () => {
    expect(
      line([project("a", { missing: [ANN, { id: "bo", name: "Bo" }] }), project("b", { missing: [ANN] })], "Reports")
        .words,
    ).toBe("2 people have not reported, on 2 projects.");
  });
});

describe("the tree of programmes", () => {
  const programmes = [
    { id: "n", name: "North", parent: "q" },
    { id: "h", name: "Harbour", parent: null },
    { id: "q", name: "Quays", parent: "h" },
    { id: "r", name: "Roads", parent: null },
  ];
  it("names the way down to one, and stands in order", () => {
    expect(pathOfProgramme(programmes, "n")).toEqual(["Harbour", "Quays", "North"]);
    expect(pathOfProgramme(programmes, null)).toEqual([OUTSIDE]);
    expect(inTreeOrder(programmes).map(({ programme, depth }) => `${depth} ${programme.name}`)).toEqual([
      "0 Harbour",
      "1 Quays",
      "2 North",
      "0 Roads",
    ]);
  });
});

describe("what is drawn of the periods", () => {
  it("sinks where a project slips, and stays within its height", () => {
    expect(driftPoints([0, 40, 400, -400], 40)).toBe("2.0,9.0 24.7,16.0 47.3,16.0 70.0,2.0");
  });

  it("has a way for each project that was ever measured, now at its end", () => {
    const paths = {
      a: [
        { number: 1, dataDate: "2026-01-31", spi: 0.9, cpi: null, drift: 1 },
        { number: 2, dataDate: "2026-02-28", spi: 0.8, cpi: 1.1, drift: 1 },
      ],
    };
    expect(
      waysOf([project("a"), project("b", {}, { figures: null })], paths).map(({ id, points }) => [id, points]),
    ).toEqual([
      [
        "a",
        [
          [0.8, 1.1, "period 2"],
          [1, 1, "now, after period 3"],
        ],
      ],
    ]);
  });
});
