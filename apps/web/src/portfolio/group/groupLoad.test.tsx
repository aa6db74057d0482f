/** @jest-environment jsdom */
import type { Load } from "@chronometra/contract";
import { screen } from "@testing-library/react";
import { listen, show } from "../../testing/fakePage.tsx";
import { GroupLoad } from "./GroupLoad.tsx";
import { HOUSE } from "./groupFigures.ts";

const person = (id: string, demand: number[], capacity: number[]): Load["people"][number] => ({
  ...{ id, name: id, role: null, teams: [], placeholder: false, demand, capacity },
  ...{ things: demand.map(() => 1), planned: demand, posted: demand.map(() => 0) },
});
const open = (people: Load["people"], id = "locks") => {
  const sent = listen(() => ({ weeks: ["2026-11-30", "2026-12-07"], people }) satisfies Load);
  show(<GroupLoad id={id} />);
  return sent;
};

describe("the load of a group", () => {
  it("says who has too much and where there is room, and opens exactly those", async () => {
    const sent = open([person("Ann", [3000, 600], [2400, 2400]), person("Bo", [600, 0], [2400, 2400])]);
    expect((await screen.findByRole("link", { name: "2 people" })).getAttribute("href")).toBe(
      "/load?weeks=13&group=locks",
    );
    expect(screen.getByRole("link", { name: "1 person over" }).getAttribute("href")).toBe(
      "/load?weeks=13&group=locks&over=yes",
    );
    // 600 minutes over in the first week; 1800 of Ann's second, 1800 and 2400 of Bo's are room.
    expect(screen.getByText(/by 10 h together; room for 100 h/)).toBeTruthy();
    expect(sent[0]!.to).toMatch(/^GET \/api\/programmes\/locks\/load\/.*\/13$/);
  });

  it("says that nobody has too much, or no work at all", async () => {
    open([person("Bo", [600, 0], [2400, 2400])]);
    expect(await screen.findByText(/has work here in the next 13 weeks, nobody more than fits/)).toBeTruthy();
    open([]);
    expect(await screen.findByText("Nobody has work here in the next 13 weeks.")).toBeTruthy();
  });

  it("of the whole house is of everybody", async () => {
    const sent = open([person("Bo", [600, 0], [2400, 2400])], HOUSE);
    expect((await screen.findByRole("link", { name: "1 person" })).getAttribute("href")).toBe("/load?weeks=13");
    expect(sent[0]!.to).toMatch(/^GET \/api\/load\//);
  });
});
