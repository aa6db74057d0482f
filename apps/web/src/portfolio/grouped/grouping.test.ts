import type { Portfolio, ProjectLine } from "@chronometra/contract";
import { groupNames, inGroupOrder, levelsIn, levelsText } from "./grouping.ts";

const line = (
  id: string,
  programme: string | null,
  manager: string,
  stage: string | null,
  rank?: string,
): ProjectLine =>
  ({ id, programme, manager, stage, values: rank === undefined ? {} : { r: rank } }) as unknown as ProjectLine;
const PORTFOLIO = {
  programmes: [
    { id: "port", name: "Port", parent: null },
    { id: "basin", name: "Basin", parent: "port" },
    { id: "coast", name: "Coast", parent: null },
  ],
  fields: [{ id: "r", name: "Rank", type: "choice", choices: ["high", "low"] }],
} as unknown as Portfolio;
const LINES = [
  line("a", "coast", "Tomas", "Works", "low"),
  line("b", "basin", "Radu", null, "high"),
  line("c", "basin", "Tomas", "Works"),
  line("d", null, "Radu", "Idea", "low"),
];
const ordered = (...levels: string[]): string[] => inGroupOrder(PORTFOLIO, LINES, levels).map(({ id }) => id);

describe("projects grouped", () => {
  it("come together by up to three fields, each level within the one before", () => {
    expect(ordered("programme")).toEqual(["b", "c", "a", "d"]);
    expect(ordered("manager", "programme")).toEqual(["b", "d", "c", "a"]);
    expect(ordered("own-r", "manager")).toEqual(["b", "d", "a", "c"]);
    expect(ordered()).toEqual(["a", "b", "c", "d"]);
    const names = groupNames(PORTFOLIO, ["manager", "programme", "own-r"])!;
    expect(names(LINES[1]!)).toEqual(["Radu", "Port", "Basin", "high"]);
    expect(names(LINES[2]!)).toEqual(["Tomas", "Port", "Basin", "no rank"]);
    expect(groupNames(PORTFOLIO, [])).toBeUndefined();
  });

  it("are kept in the address as short as it can be, and read from it whatever it says", () => {
    const { fields } = PORTFOLIO;
    expect(levelsIn(null, fields)).toEqual(["programme"]);
    expect(levelsIn("none", fields)).toEqual([]);
    expect(levelsIn("manager,own-r,manager,stage,programme", fields)).toEqual(["manager", "own-r", "stage"]);
    expect(levelsIn("own-gone", fields)).toEqual(["programme"]);
    expect(levelsText(["programme"])).toBeNull();
    expect(levelsText([])).toBe("none");
    expect(levelsText(["stage", "manager"])).toBe("stage,manager");
  });
});
