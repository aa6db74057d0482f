import fc from "fast-check";
import { completed, partsOf, termAt } from "./words.ts";

const HERE = "https://plans.example.org";
const parts = (text: string, named: string[] = []) =>
  partsOf(text, named, HERE).map(({ kind, text: words }) => `${kind}: ${words}`);

describe("what was said, in pieces", () => {
  it("has names, rows by their names, pages of ours and addresses outside", () => {
    expect(parts("@Ann Marsh, see [Dig](/projects/p/plan?at=dig), not @Ann.", ["Ann", "Ann Marsh"])).toEqual([
      ...["name: @Ann Marsh", "words: , see ", "page: Dig", "words: , not ", "name: @Ann", "words: ."],
    ]);
    expect(parts(`Look: ${HERE}/inbox and https://tide.example/table?x=1.`)).toEqual([
      ...["words: Look: ", "page: /inbox", "words:  and ", "out: https://tide.example/table?x=1", "words: ."],
    ]);
  });

  it("leads nowhere but to pages of ours and to addresses of the web", () => {
    for (const text of [
      "[x](javascript:alert(1))",
      "[x](https://evil.example)",
      "[x](//evil.example)",
      "javascript:alert(1)",
    ])
      for (const part of partsOf(text, [], HERE)) if ("to" in part) expect(part.to).toMatch(/^(https:\/\/|\/(?!\/))/);
  });

  it("says all of it, whatever it is (law)", () => {
    fc.assert(
      fc.property(fc.string(), fc.array(fc.string({ minLength: 1 }), { maxLength: 3 }), (text, named) => {
        const all = partsOf(text, named, HERE);
        fc.pre(all.every(({ kind }) => kind !== "page"));
        expect(all.map((part) => part.text).join("")).toBe(text);
      }),
    );
  });
});

describe("a term that is being typed", () => {
  it("begins with its sign at the beginning of a word, and is completed where it stands", () => {
    expect(termAt("to @An", 6)).toEqual({ sign: "@", typed: "An", from: 3 });
    expect(termAt("#quay wa", 8)).toEqual({ sign: "#", typed: "quay wa", from: 0 });
    expect(termAt("me@an", 5)).toBeNull();
    expect(termAt("@Ann\nthen", 9)).toBeNull();
    expect(completed("to @An, now", { sign: "@", typed: "An", from: 3 }, "@Ann Marsh")).toEqual({
      ...{ text: "to @Ann Marsh, now", caret: 13 },
    });
    expect(completed("@A", { sign: "@", typed: "A", from: 0 }, "@Ann")).toEqual({ text: "@Ann ", caret: 5 });
  });
});
