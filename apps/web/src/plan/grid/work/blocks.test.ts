import { computePlan, fromBundle } from "@chronometra/core";
import { copyBlock, fillTexts, idsAfter, writeBlock } from "./blocks.ts";
import { layOutSheet } from "../../engine/layOutSheet.ts";
import { SHEET_COLUMNS } from "../columns/sheetColumns.ts";
import { slipway } from "../../testing/plans.ts";

const plan = slipway();
const { rows } = layOutSheet(fromBundle(plan), plan, computePlan(plan));
const READING = { today: "2026-11-24", people: [], calendars: [], minorDigits: 2 };
const columns = ["name", "length", "after", "finishes"].map((id) => SHEET_COLUMNS.find((column) => column.id === id)!);
const rowAt = (id: string): number => rows.findIndex((row) => row.id === id);
const write = (texts: string[][], top: number, left = 0) =>
  writeBlock(texts, { rows, columns, top, left, reading: READING, newId: idsAfter(rows, "p") });

describe("blocks of cells", () => {
  it("are copied as they would be typed, computed ones as they are shown", () => {
    expect(
      copyBlock(columns, { rows: rows.slice(rowAt("pour"), rowAt("dig") + 1), left: 0, right: 3 }, READING),
    ).toEqual([
      ["Pour", "3d", "Dig", "11 Mar 2026"],
      ["Dig", "5d", "", "6 Mar 2026"],
    ]);
  });

  it("numbers of thousands are copied without the spaces that are read on the screen, and mean the same pasted back", () => {
    const cost = SHEET_COLUMNS.find(({ id }) => id === "budget")!;
    const length = columns[1]!;
    const row = { ...rows[rowAt("pour")]!, budgetMinor: 1_234_567_00, durationMinutes: 480 * 1234 };
    expect(cost.text(row, READING)).toBe("1\u00a0234\u00a0567");
    expect(copyBlock([length, cost], { rows: [row], left: 0, right: 1 }, READING)).toEqual([["1234d", "1234567"]]);
    expect(length.read!("1\u00a0234d", row, READING)).toEqual({ changes: [] });
  });

  it("pasted back where they came from change nothing", () => {
    const block = { rows, left: 0, right: 3 };
    expect(write(copyBlock(columns, block, READING), 0)).toEqual({ changes: [], asked: [], faults: [], added: 0 });
  });

  it("become changes cell by cell, links being kept for the plan to read", () => {
    expect(write([["Pour slab", "4d", "Paint", "whatever"]], rowAt("pour"))).toEqual({
      changes: [
        { type: "setName", activity: "pour", name: "Pour slab" },
        { type: "setDuration", activity: "pour", minutes: 1920 },
      ],
      asked: [{ activity: "pour", text: "Paint", what: "links" }],
      faults: [],
      added: 0,
    });
  });

  it("rows below the last are added where a name comes for them, beside the last row", () => {
    const written = write(
      [
        ["Later", ""],
        ["Strip", "2d"],
        ["Clean", "1d"],
      ],
      rowAt("later"),
    );
    expect(written.added).toBe(2);
    expect(written.changes).toEqual([
      {
        type: "addRow",
        table: "activities",
        key: "n1-p",
        row: { id: "n1-p", name: "Strip", parent: "works", durationMinutes: 960 },
      },
      {
        type: "addRow",
        table: "activities",
        key: "n2-p",
        row: { id: "n2-p", name: "Clean", parent: "works", durationMinutes: 480 },
      },
    ]);
  });

  it("what cannot be is told cell by cell: a duration that is none, a duration on a summary, a row without a name", () => {
    expect(write([["2d"], ["soon"]], rowAt("works"), 1).faults).toEqual([
      "Duration of “Works”: Only work has this of its own.",
      "Duration of “Pour”: Write a duration as 3d, 2.5d, 4h, 2w or 2d4h.",
    ]);
    expect(write([["x"], ["1d"]], rows.length - 1, 1).faults[1]).toMatch(/brings no name/);
  });

  it("the first row is said again for all when filling down", () => {
    expect(
      fillTexts(columns, { rows: rows.slice(rowAt("pour"), rowAt("paint") + 1), left: 1, right: 1 }, READING),
    ).toEqual([["3d"], ["3d"], ["3d"]]);
  });

  it("new ids count on from the highest there is, and are no other page's", () => {
    const there = [
      { ...rows[0]!, id: "n7" },
      { ...rows[0]!, id: "n12-abcd" },
      { ...rows[0]!, id: "A99" },
    ];
    const [ids, others] = [idsAfter(there, "a"), idsAfter(there, "b")];
    expect([ids(0), ids(1), others(0)]).toEqual(["n13-a", "n14-a", "n13-b"]);
    expect(idsAfter(there)(0)).toMatch(/^n13-[a-z0-9]{4}$/);
  });
});
