import { computePlan, fromBundle } from "@chronometra/core";
import { copyBlock, fillTexts, idsAfter, writeBlock } from "./blocks.ts";
import { layOutSheet } from "../engine/layOutSheet.ts";
import { SHEET_COLUMNS } from "./sheetColumns.ts";
import { slipway } from "../testing/plans.ts";

const plan = slipway();
const { rows } = layOutSheet(fromBundle(plan), plan, computePlan(plan));
const READING = { today: "2026-11-24", people: [], calendars: [], minorDigits: 2 };
const columns = ["name", "length", "after", "finishes"].map((id) => SHEET_COLUMNS.find((column) => column.id === id)!);
const rowAt = (id: string): number => rows.findIndex((row) => row.id === id);
const write = (texts: string[][], top: number, left = 0) => writeBlock(texts, { rows, columns, top, left, reading: READING, newId: idsAfter(rows) });

describe("blocks of cells", () => {
  it("are copied as they would be typed, computed ones as they are shown", () => {
    expect(copyBlock(rows, columns, { top: rowAt("pour"), bottom: rowAt("dig"), left: 0, right: 3 }, READING)).toEqual([["Pour", "3d", "Dig", "11 Mar 2026"], ["Dig", "5d", "", "6 Mar 2026"]]);
  });

  it("pasted back where they came from change nothing", () => {
    const block = { top: 0, bottom: rows.length - 1, left: 0, right: 3 };
    expect(write(copyBlock(rows, columns, block, READING), 0)).toEqual({ changes: [], asked: [], faults: [], added: 0 });
  });

  it("become changes cell by cell, links being kept for the plan to read", () => {
    expect(write([["Pour slab", "4d", "Paint", "whatever"]], rowAt("pour"))).toEqual({
      changes: [{ type: "setName", activity: "pour", name: "Pour slab" }, { type: "setDuration", activity: "pour", minutes: 1920 }],
      asked: [{ activity: "pour", text: "Paint", what: "links" }],
      faults: [],
      added: 0,
    });
  });

  it("rows below the last are added where a name comes for them, beside the last row", () => {
    const written = write([["Later", ""], ["Strip", "2d"], ["Clean", "1d"]], rowAt("later"));
    expect(written.added).toBe(2);
    expect(written.changes).toEqual([
      { type: "addRow", table: "activities", key: "n1", row: { id: "n1", name: "Strip", parent: "works" } },
      { type: "setDuration", activity: "n1", minutes: 960 },
      { type: "addRow", table: "activities", key: "n2", row: { id: "n2", name: "Clean", parent: "works" } },
      { type: "setDuration", activity: "n2", minutes: 480 },
    ]);
  });

  it("what cannot be is told cell by cell: a length that is none, a length on a summary, a row without a name", () => {
    expect(write([["2d"], ["soon"]], rowAt("works"), 1).faults).toEqual(["Length of “Works”: Only work has this of its own.", "Length of “Pour”: Write a length as 3d, 2.5d, 4h or 2w."]);
    expect(write([["x"], ["1d"]], rows.length - 1, 1).faults[1]).toMatch(/brings no name/);
  });

  it("the first row is said again for all when filling down", () => {
    expect(fillTexts(rows, columns, { top: rowAt("pour"), bottom: rowAt("paint"), left: 1, right: 1 }, READING)).toEqual([["3d"], ["3d"], ["3d"]]);
  });

  it("new ids count on from the highest there is", () => {
    const ids = idsAfter([{ ...rows[0]!, id: "n7" }, { ...rows[0]!, id: "n12" }, { ...rows[0]!, id: "A99" }]);
    expect([ids(0), ids(1)]).toEqual(["n13", "n14"]);
  });
});
