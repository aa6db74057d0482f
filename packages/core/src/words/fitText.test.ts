import fc from "fast-check";
import { fitText, fitTexts, unfitness } from "./fitText.ts";

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
      expect(fitText(text)).toBe(text);
    },
  );

  it("keeps all but what it may not hold, and breaks its lines where they were broken", () => {
    expect(fitText("first\u000bsecond\u0000\u202e\ud800 end")).toBe("first\nsecond end");
    fc.assert(fc.property(fc.string({ unit: "binary" }), (text) => unfitness(fitText(text)) === null));
  });
});

describe("a value", () => {
  it("has its texts cleared wherever they are, and is the same object where nothing has to go", () => {
    const changes = [
      { type: "setName", name: "Dig\u202c" },
      { row: { notes: ["fine", "a\u0000"], minutes: 5, none: null } },
    ];
    expect(fitTexts(changes)).toEqual([
      { type: "setName", name: "Dig" },
      { row: { notes: ["fine", "a"], minutes: 5, none: null } },
    ]);
    fc.assert(
      fc.property(fc.jsonValue({ noUnicodeString: true }), (value) => {
        const once = fitTexts(value);
        return fitTexts(once) === once;
      }),
    );
    const fine = [{ a: "b", c: [1] }];
    expect(fitTexts(fine)).toBe(fine);
  });
});
