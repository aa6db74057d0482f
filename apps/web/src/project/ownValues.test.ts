import type { ProjectField, ProjectLine } from "@chronometra/contract";
import { CallNames } from "@chronometra/core";
import { ownValueOrder, ownValueText, ownValueWords, readOwnValue } from "./ownValues.ts";

const field = (type: ProjectField["type"], choices?: string[]): ProjectField => ({
  ...{ id: "f", name: "Field", type },
  ...(choices === undefined ? {} : { choices }),
});
const line = (value: string | number | boolean | undefined, minorDigits = 2): ProjectLine =>
  ({ values: value === undefined ? {} : { f: value }, summary: { minorDigits } }) as unknown as ProjectLine;
const NAMED = { t: "Tomas Weir" };
const people = new CallNames([
  { id: "t", name: "Tomas Weir" },
  { id: "a", name: "Ann Lee" },
  { id: "b", name: "Ann Lee" },
]);
const read = (of: ProjectField, text: string, minorDigits = 2) =>
  readOwnValue(of, text, { year: "2026", minorDigits, people });

describe("values of own fields", () => {
  it("are read as what the field holds; what is none is not taken, and nothing takes it away", () => {
    expect(read(field("number"), "1.5")).toBe(1.5);
    expect(read(field("date"), "24 Nov")).toBe("2026-11-24");
    expect(read(field("yesNo"), "No")).toBe(false);
    expect(read(field("choice", ["High", "Low"]), "low")).toBe("Low");
    expect(read(field("person"), "tomas weir")).toBe("t");
    expect(read(field("text"), " Port board ")).toBe("Port board");
    for (const type of ["number", "date", "yesNo", "choice", "money", "person"] as const) {
      expect(read(field(type, ["High"]), "gibberish")).toBeUndefined();
      expect(read(field(type, ["High"]), "  ")).toBeNull();
    }
    // Two of one name: which is meant is not guessed.
    expect(read(field("person"), "Ann Lee")).toBeUndefined();
  });

  it("of money are in whole units, so that a currency of 0, 2 or 3 digits says what it can", () => {
    expect(read(field("money"), "1 200.50")).toBe(1200.5);
    expect(read(field("money"), "1200", 0)).toBe(1200);
    expect(read(field("money"), "1200.5", 0)).toBeUndefined();
    expect(read(field("money"), "0.125", 3)).toBe(0.125);
    expect(ownValueText(field("money"), line(1200.5), {})).toBe("1200.50");
    expect(ownValueText(field("money"), line(1200.5, 0), {})).toBe("1201");
    expect(ownValueOrder(field("money"), line(1.1), {})).toBe(110);
  });

  it("are said in words, people by their names, choices in the order of their list", () => {
    expect(ownValueWords(field("person"), line("t"), NAMED)).toBe("Tomas Weir");
    expect(ownValueWords(field("person"), line("gone"), NAMED)).toMatch(/not known any more/);
    expect(ownValueWords(field("yesNo"), line(true), {})).toBe("yes");
    expect(ownValueWords(field("text"), line(undefined), {})).toBe("");
    const ranked = field("choice", ["high", "middle", "low"]);
    expect(["middle", "low", "high"].map((choice) => ownValueOrder(ranked, line(choice), {}))).toEqual([1, 2, 0]);
    expect(ownValueOrder(ranked, line(undefined), {})).toBeNull();
  });
});
