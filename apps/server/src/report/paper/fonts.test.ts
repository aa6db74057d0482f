import type { ReportContent } from "@chronometra/contract";
import fc from "fast-check";
import { openSync, type Font } from "fontkit";
import { readPdf } from "../../testing/readPdf.ts";
import { FONTS, runsOf, type FontName } from "./fonts.ts";
import { reportPdf } from "./reportPdf.ts";

const draws = (font: FontName, sign: string): boolean =>
  (openSync(FONTS[font].normal) as Font).hasGlyphForCodePoint(sign.codePointAt(0)!);

describe("the fonts of paper", () => {
  it("draw a text in its own font where that has it, in another where that has, and spell what none has", () => {
    expect(runsOf("Pump, 3 × 4", "Head")).toEqual([{ text: "Pump, 3 × 4", font: "Head" }]);
    expect(runsOf("Pump Ωμέγα Ж 港口 now 😀", "Head")).toEqual([
      { text: "Pump ", font: "Head" },
      { text: "Ωμέγα Ж ", font: "Text" },
      { text: "港口 ", font: "Any" },
      { text: "now [U+1F600]", font: "Head" },
    ]);
  });

  it("leave nothing out, and draw every letter that they are given", () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(..."abÆžΩЖ港ע😀 \u0301\n▲‑…", "e\u0301")),
        fc.constantFrom<FontName>("Head", "Text"),
        (letters, own) => {
          const text = letters.join("");
          const runs = runsOf(text, own);
          const spelled = text.replace(/😀\u0301*/gu, (letter) =>
            letter.replace("😀", "[U+1F600]").replaceAll("\u0301", "[U+0301]"),
          );
          expect(runs.map((run) => run.text).join("")).toBe(spelled);
          for (const { text: run, font } of runs)
            for (const sign of run.replaceAll("\n", "")) expect([sign, draws(font, sign)]).toEqual([sign, true]);
        },
      ),
      { numRuns: 60 },
    );
  });

  it("show on paper what another reader finds there, in titles, cells, texts and drawings", async () => {
    const content: ReportContent = {
      format: 1,
      of: "project",
      organisation: "Organisation 甲",
      title: "Title 乙",
      under: "LG 丙",
      manager: "Manager 丁",
      period: 1,
      dataDate: "2026-03-06",
      parts: [
        {
          id: "x",
          title: "Part 戊",
          level: 1,
          blocks: [
            {
              is: "table",
              columns: [{ name: "Head 己", number: false }],
              rows: [{ cells: [{ text: "Cell 庚" }] }],
              none: "",
            },
            { is: "lines", items: [{ text: "Line 辛" }], none: "" },
            {
              is: "trend",
              dates: ["2026-01-30", "2026-02-27"],
              lines: [{ name: "Milestone 壬", forecasts: ["2026-05-01", "2026-05-04"] }],
            },
          ],
        },
      ],
    };
    const { text } = readPdf(await reportPdf(content, "A4", "issued by 癸"));
    for (const sign of "甲乙丙丁戊己庚辛壬癸") expect([sign, text.includes(sign)]).toEqual([sign, true]);
  });
});
