import { someone } from "../testing/fakePage.tsx";
import { inTreeOrder, reachInWords } from "./programmeTree.ts";

const GROUPS = [
  { id: "port", name: "Port", parent: null },
  { id: "locks", name: "Locks", parent: "port" },
  { id: "north", name: "North", parent: "locks" },
  { id: "yard", name: "Yard", parent: "port" },
];

describe("where someone looks", () => {
  it("is not said of whoever looks at the whole house with one of their roles", () => {
    expect(reachInWords(someone("reader"), GROUPS)).toBeNull();
    expect(reachInWords({ ...someone("reader", "approver"), within: { approver: ["north"] } }, GROUPS)).toBeNull();
  });

  it("is the topmost groups for which roles were given", () => {
    const within = { reader: ["locks", "north"], approver: ["yard"] };
    expect(reachInWords({ ...someone("reader", "approver"), within }, GROUPS)).toBe("Locks, Yard");
    expect(reachInWords({ ...someone("reader"), within: { reader: [] } }, GROUPS)).toBeNull();
  });
});

it("groups stand each before what is part of it", () => {
  expect(inTreeOrder([...GROUPS].reverse()).map(({ programme, depth }) => [programme.id, depth])).toEqual([
    ["port", 0],
    ["yard", 1],
    ["locks", 1],
    ["north", 2],
  ]);
});
