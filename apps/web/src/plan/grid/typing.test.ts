import fc from "fast-check";
import { computePlan, fromBundle, WISHES, wishText, type OwnField } from "@chronometra/core";
import { completionsOf } from "./cells/completion.ts";
import { findCells, replaceCells, replacedIn } from "./tools/find.ts";
import { layOutSheet } from "../engine/layOutSheet.ts";
import { ownColumn, ownValueText, readOwnValue } from "../engine/ownColumn.ts";
import { SHEET_COLUMNS } from "./columns/sheetColumns.ts";
import { slipway } from "../testing/plans.ts";
import { inOrder } from "./columns/usePlanColumns.ts";
import { readWish } from "../engine/wishWords.ts";

const NAMES = ["Dig", "Dig the pit", "Pour", "Lay pipe", "Digging watch"];
const texts = (typed: string, several = true): string[] => completionsOf(typed, NAMES, several).map(({ text }) => text);

describe("completion while typing", () => {
  it("offers what begins with it first, then what has a word that does, then what has it somewhere", () => {
    expect(texts("dig")).toEqual(["Dig the pit", "Digging watch"]);
    expect(texts("p")).toEqual(["Pour", "Lay pipe", "Dig the pit"]);
    expect(texts("zz")).toEqual([]);
    expect(texts("")).toEqual([]);
  });

  it("completes only the last part, and keeps the words before its name", () => {
    expect(texts("Pour; with lay")).toEqual(["Pour; with Lay pipe"]);
    expect(texts("Pour;lay")).toEqual(["Pour; Lay pipe"]);
    expect(texts("ends with po")).toEqual(["ends with Pour"]);
    expect(texts("Pour; lay", false)).toEqual([]);
  });
});

describe("date wishes in words", () => {
  it("are read back as they are written, for every kind", () => {
    const reason = fc.option(fc.stringMatching(/^[a-z][a-z ]{0,8}[a-z]$/), { nil: undefined });
    fc.assert(
      fc.property(
        fc.constantFrom(...(Object.keys(WISHES) as (keyof typeof WISHES)[])),
        fc.constantFrom("2026-05-04", "2031-12-31"),
        reason,
        (type, date, why) => {
          const wish = { type, date, ...(why === undefined ? {} : { reason: why }) };
          expect(readWish(wishText(wish), "2000")).toEqual(wish);
        },
      ),
    );
  });

  it.each([
    ["by 1 June", { type: "finishNotAfter", date: "2026-06-01" }],
    ["on 1 June 2027: tide", { type: "startOn", date: "2027-06-01", reason: "tide" }],
    ["Start On 2026-05-04", { type: "startOn", date: "2026-05-04" }],
    ["", null],
  ])("%j is %j", (text, wish) => expect(readWish(text, "2026")).toEqual(wish));
});

describe("fields of one's own", () => {
  const field = (type: OwnField["type"], choices?: string[]): OwnField => ({
    id: "f",
    name: "Zone",
    type,
    ...(choices === undefined ? {} : { choices }),
  });

  it.each<[OwnField, string, unknown]>([
    [field("text"), " north ", "north"],
    [field("number"), "1 200,5", 1200.5],
    [field("number"), "many", { fault: "“many” is no number." }],
    [field("date"), "4 May", "2026-05-04"],
    [field("date"), "4/5", { fault: expect.stringContaining("Write a date") as string }],
    [field("yesNo"), "Y", true],
    [field("yesNo"), "no", false],
    [field("yesNo"), "maybe", { fault: "Write yes or no." }],
    [field("choice", ["North", "South", "Southeast"]), "nor", "North"],
    [field("choice", ["North", "South", "Southeast"]), "south", "South"],
    [field("choice", ["North", "South"]), "west", { fault: "Zone is one of North, South." }],
    [field("number"), "", null],
  ])("%j reads %j", (of, text, value) => expect(readOwnValue(of, text, "2026")).toEqual(value));

  it.each<[OwnField, string | number | boolean]>([
    [field("text"), "a; b"],
    [field("number"), -2.25],
    [field("date"), "2026-02-28"],
    [field("yesNo"), false],
    [field("choice", ["A", "AB"]), "A"],
  ])("%j shows what it reads back", (of, value) => {
    expect(readOwnValue(of, ownValueText(of, value), "2026")).toBe(value);
  });

  it("stand behind the plan's own columns, and change nothing where the value is the same", () => {
    const column = ownColumn(field("number"));
    const plan = slipway();
    const row = { ...layOutSheet(fromBundle(plan), plan, computePlan(plan)).rows[0]!, values: { f: 3 } };
    expect(column.read!("3", row, READING)).toEqual({ changes: [] });
    expect(column.read!("", row, READING)).toEqual({
      changes: [{ type: "setOwnValue", activity: "open", field: "f", value: null }],
    });
  });
});

const READING = { today: "2026-11-24", people: [], calendars: [], minorDigits: 2 };

describe("find and replace", () => {
  const plan = slipway();
  const { rows } = layOutSheet(fromBundle(plan), plan, computePlan(plan));
  const columns = ["name", "length", "after", "finishes"].map((id) =>
    SHEET_COLUMNS.find((column) => column.id === id)!,
  );

  it("finds in every shown cell, capitals or not, in reading order", () => {
    expect(findCells(rows, columns, "P", READING).map(({ id, column }) => [id, column])).toEqual([
      ["open", "name"],
      ["open", "after"],
      ["pour", "name"],
      ["paint", "name"],
      ["later", "finishes"],
    ]);
    expect(findCells(rows, columns, "", READING)).toEqual([]);
  });

  it("replaces in what can be typed, leaves the rest, and tells the plan what it must read itself", () => {
    const replaced = replaceCells(findCells(rows, columns, "pour", READING), rows, columns, "pour", "Cast", READING);
    expect(replaced).toEqual({
      changes: [{ type: "setName", activity: "pour", name: "Cast" }],
      asked: [{ activity: "open", text: "Cast", what: "links" }],
      faults: [],
      cells: 2,
    });
    const lengths = replaceCells(findCells(rows, [columns[1]!], "d", READING), rows, [columns[1]!], "d", "x", READING);
    expect(lengths.faults[0]).toMatch(/^Duration of “Pour”: Write a duration/);
  });

  it("takes signs as they are, and leaves what replaces as it is typed", () => {
    expect([replacedIn("a+b A+B", "a+b", "$&"), replacedIn("x.y", ".", "")]).toEqual(["$& $&", "xy"]);
  });
});

describe("the order of columns", () => {
  it("is someone's own; the name leads, and columns they have not seen stand where they stand by themselves", () => {
    const ids = SHEET_COLUMNS.map(({ id }) => id);
    const order = ["drift", "name", "length"];
    const placed = inOrder(SHEET_COLUMNS, order).map(({ id }) => id);
    expect(placed[0]).toBe("name");
    expect(placed.indexOf("drift")).toBeLessThan(placed.indexOf("length"));
    expect([...placed].sort()).toEqual([...ids].sort());
    expect(inOrder(SHEET_COLUMNS, []).map(({ id }) => id)).toEqual(ids);
    // A column that was not there when the order was kept stays behind the one it follows.
    expect(
      inOrder(
        SHEET_COLUMNS,
        ids.filter((id) => id !== "wbs"),
      ).map(({ id }) => id),
    ).toEqual(ids);
  });
});
