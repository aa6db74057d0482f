import fc from "fast-check";
import { findUnfit, fitted, unfitness } from "./fitTexts.ts";

describe("a text", () => {
  it.each([
    ["a\u0000b", /cannot be shown \(U\+0000\)/],
    ["bell\u0007", /U\+0007/],
    ["invoice\u202Efdp.exe", /turns the direction of writing \(U\+202E\)/],
    ["\u2067isolated", /U\+2067/],
    ["x\udfff", /half a character/],
    ["\ud83d", /half a character/],
  ])("%j cannot be kept, and says why", (text, why) => expect(unfitness(text)).toMatch(why));

  it.each(["", "two\nlines\tand a tab\r\n", "Ωμέγα שלום\u200f مرحبا", "family 👨‍👩‍👧‍👦", "e\u0301"])(
    "%j is kept as it is",
    (text) => {
      expect(unfitness(text)).toBeNull();
      expect(fitted(text)).toBe(text);
    },
  );

  it("of a sheet keeps all but what it may not hold, and breaks its lines where they were broken", () => {
    expect(fitted("first\u000bsecond\u0000\u202e\ud800 end")).toBe("first\nsecond end");
    fc.assert(fc.property(fc.string({ unit: "binary" }), (text) => unfitness(fitted(text)) === null));
  });
});

describe("a value", () => {
  it("is looked through whole: texts, names of fields, and however deep it is nested", () => {
    expect(findUnfit({ a: [1, null, { b: "fine" }], c: true })).toBeNull();
    expect(findUnfit({ changes: [{ name: "ok" }, { name: "a\u0000" }] })?.path).toEqual(["changes", "1", "name"]);
    expect(findUnfit({ "a\u202e": 1 })?.why).toMatch(/a name in it/);
    const deep = JSON.parse(`${"[".repeat(300_000)}${"]".repeat(300_000)}`) as unknown;
    expect(findUnfit(deep)?.why).toBe("What was sent is nested deeper than 64 levels");
  });
});
