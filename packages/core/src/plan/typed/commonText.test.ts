import fc from "fast-check";
import { nameInAnyOrder, readCommonLinks, readCommonWork } from "./commonText.ts";

const ROWS = new Set(["1", "3", "5", "7", "1.2", "Dig", "Staff", "Fit-out - phase 2", "Pour, slab"]);
const links = (text: string) => {
  const read = readCommonLinks(text, 480, (key) => ROWS.has(key));
  return "fault" in read
    ? read.fault
    : read.parts.map(({ key, type, lag }) => [
        key,
        type,
        lag === null ? 0 : "percent" in lag ? `${lag.percent}%` : lag.minutes,
      ]);
};

describe("predecessors as they are commonly written", () => {
  it.each([
    ["3", [["3", "FS", 0]]],
    [
      "3;5",
      [
        ["3", "FS", 0],
        ["5", "FS", 0],
      ],
    ],
    [
      "3, 5",
      [
        ["3", "FS", 0],
        ["5", "FS", 0],
      ],
    ],
    ["3FS+2d", [["3", "FS", 960]]],
    ["3 fs + 2 days", [["3", "FS", 960]]],
    ["5SS-1w", [["5", "SS", -2400]]],
    ["7FF", [["7", "FF", 0]]],
    ["3FS+50%", [["3", "FS", "50%"]]],
    ["3-4h", [["3", "FS", -240]]],
    [
      "3FS+1,5d,5",
      [
        ["3", "FS", 720],
        ["5", "FS", 0],
      ],
    ],
    ["1.2SF", [["1.2", "SF", 0]]],
    [
      "Dig; Staff",
      [
        ["Dig", "FS", 0],
        ["Staff", "FS", 0],
      ],
    ],
    ["StaffFF", [["Staff", "FF", 0]]],
    [
      "Fit-out - phase 2, Dig SS",
      [
        ["Fit-out - phase 2", "FS", 0],
        ["Dig", "SS", 0],
      ],
    ],
    [
      "Pour, slab, 3",
      [
        ["Pour, slab", "FS", 0],
        ["3", "FS", 0],
      ],
    ],
    [
      "3;\n5;",
      [
        ["3", "FS", 0],
        ["5", "FS", 0],
      ],
    ],
    [
      "with Dig + 2d; ends with Staff",
      [
        ["Dig", "SS", 960],
        ["Staff", "FF", 0],
      ],
    ],
    ["ends as Dig starts", [["Dig", "SF", 0]]],
    ["", []],
  ])("%j", (text, expected) => expect(links(text)).toEqual(expected));

  it.each([
    ["9", "“9” means nothing here"],
    ["3;9FS", "“9FS” means nothing here"],
    ["with Nobody", "“with Nobody” means nothing here"],
    ["3FS+2x", "“3FS+2x” means nothing here"],
    ["3,n/a", "“n/a” means nothing here"],
  ])("%j is told as what it is", (text, fault) => expect(links(text)).toBe(fault));

  it("reads back every list that is written so", () => {
    const link = fc.record({
      key: fc.constantFrom(...ROWS),
      type: fc.constantFrom("FS", "SS", "FF", "SF"),
      days: fc.integer({ min: -9, max: 9 }),
    });
    fc.assert(
      fc.property(fc.array(link, { maxLength: 5 }), fc.constantFrom(";", ", ", "\n"), (wanted, between) => {
        const text = wanted
          .map(
            ({ key, type, days }) => `${key} ${type}${days === 0 ? "" : `${days > 0 ? "+" : "-"}${Math.abs(days)}d`}`,
          )
          .join(between);
        expect(links(text)).toEqual(wanted.map(({ key, type, days }) => [key, type, days * 480]));
      }),
    );
  });
});

const KNOWN = new Set(["moss brigid", "ann", "bob"]);
const work = (text: string) => {
  const read = readCommonWork(text, 480, (name) => KNOWN.has(nameInAnyOrder(name)) || KNOWN.has(name.toLowerCase()));
  return "fault" in read ? read.fault : read.parts;
};

describe("people as they are commonly written", () => {
  it.each([
    ["Ann; Bob", [{ name: "Ann" }, { name: "Bob" }]],
    ["Ann, Bob", [{ name: "Ann" }, { name: "Bob" }]],
    ["Ann 50%", [{ name: "Ann", unitsPercent: 50 }]],
    ["Ann[50%]", [{ name: "Ann", unitsPercent: 50 }]],
    [
      "Ann [50%], Bob (16h)",
      [
        { name: "Ann", unitsPercent: 50 },
        { name: "Bob", minutes: 960 },
      ],
    ],
    ["Bob 16h", [{ name: "Bob", minutes: 960 }]],
    ["Bob 2 d at 50%", [{ name: "Bob", minutes: 960, unitsPercent: 50 }]],
    ["Bob 12 hrs", [{ name: "Bob", minutes: 720 }]],
    ["Zoë Ahlgren", [{ name: "Zoë Ahlgren" }]],
    ["Site crew, Zoë Ahlgren", [{ name: "Site crew" }, { name: "Zoë Ahlgren" }]],
  ])("%j", (text, expected) => expect(work(text)).toEqual(expected));

  it("knows a name in any order, also with its comma", () => {
    expect(nameInAnyOrder("Moss, Brígid")).toBe(nameInAnyOrder("brigid moss"));
    const read = readCommonWork("Moss, Brigid; Ann", 480, (name) => nameInAnyOrder(name) === "brigid moss");
    expect(read).toEqual({ parts: [{ name: "Moss, Brigid" }, { name: "Ann" }] });
    expect(readCommonWork("Ahlgren, Zoë 50%; Ann", 480, () => false, false)).toEqual({
      parts: [{ name: "Ahlgren, Zoë", unitsPercent: 50 }, { name: "Ann" }],
    });
  });

  it.each([
    ["Ann 0%", "“Ann 0%” means nothing here"],
    ["50%", "“50%” means nothing here"],
    ["Ann 16x", "“Ann 16x” means nothing here"],
  ])("%j is told as what it is", (text, fault) => expect(work(text)).toBe(fault));
});
