import type { Load } from "@chronometra/contract";
import { fullness, loadLines, overAndRoom } from "./loadLines.ts";

const person = (
  id: string,
  role: string | null,
  teams: string[],
  demand: number[],
  rest: Partial<Load["people"][number]> = {},
): Load["people"][number] => ({
  id,
  name: id,
  role,
  teams,
  placeholder: false,
  capacity: [2400, 2400],
  demand,
  things: [1, 1],
  planned: demand,
  posted: [0, 0],
  ...rest,
});
const load: Load = {
  weeks: ["2026-03-02", "2026-03-09"],
  people: [
    person("ann", "diver", ["crew"], [3000, 600]),
    person("bo", "diver", ["crew", "night"], [600, 2400]),
    person("open", "mason", [], [1200, 0], { placeholder: true }),
  ],
};

describe("load lines", () => {
  it("sum people of a role; a role to be filled has no time of its own", () => {
    expect(loadLines(load, "role").map(({ name, demand, capacity }) => [name, demand, capacity])).toEqual([
      ["diver", [3600, 3000], [4800, 4800]],
      ["mason", [1200, 0], [0, 0]],
    ]);
  });

  it("have whoever is in two teams in both, and those in none at the end", () => {
    expect(loadLines(load, "team").map(({ name, people }) => [name, people.map(({ id }) => id)])).toEqual([
      ["crew", ["ann", "bo"]],
      ["night", ["bo"]],
      ["no team", ["open"]],
    ]);
  });

  it("tell what is over and what is room week by week: room in one does not pay for another", () => {
    expect(overAndRoom(loadLines(load, "person")[0]!)).toEqual({ over: 600, room: 1800 });
  });

  it("are as full as the work fills the time", () => {
    expect([fullness(0, 2400), fullness(1200, 2400), fullness(60, 0)]).toEqual([null, 0.5, Infinity]);
  });
});
