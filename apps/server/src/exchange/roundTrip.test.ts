import { readFileSync } from "node:fs";
import { join } from "node:path";
import { parseBundle, type PlanBundle } from "@chronometra/core";
import fc from "fast-check";
import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import Papa from "papaparse";
import { NOTHING_KNOWN } from "../testing/nothingKnown.ts";
import { smallPlan } from "../testing/testWorld.ts";
import { readFiles } from "./sheets/readFiles.ts";
import { readOds } from "./sheets/readOds.ts";
import { understand } from "./understand.ts";
import { writeCsvZip, writeWorkbook } from "./sheets/writeFiles.ts";

const readBack = async (
  name: string,
  data: Uint8Array,
): Promise<{ bundle: PlanBundle | null; problems: string[]; asked: unknown }> => {
  const { bundle, view } = understand(await readFiles([{ name, data }]), {}, NOTHING_KNOWN, name);
  return {
    bundle,
    problems: view.problems.filter(({ level }) => level === "error").map(({ place, message }) => `${place} ${message}`),
    asked: view.numberQuestion,
  };
};

/**
 * A CSV set as another program writes it anew where decimals are parted by a comma: numbers in its way, parted by
 * semicolons.
 */
function writtenAnew(zip: Uint8Array): Uint8Array {
  const files = Object.entries(unzipSync(zip)).map(([name, data]) => {
    const { data: rows } = Papa.parse<string[]>(
      strFromU8(data)
        .replace(/^\uFEFF/, "")
        .replace(/\r\n$/, ""),
    );
    const anew = rows.map((row) =>
      row.map((cell, c) =>
        !/name|category/.test(rows[0]![c]!) && /^-?\d+\.\d+$/.test(cell) ? cell.replace(".", ",") : cell,
      ),
    );
    return [name, strToU8(Papa.unparse(anew, { delimiter: ";", newline: "\n" }))] as const;
  });
  return zipSync(Object.fromEntries(files));
}

/**
 * Names with spaces at their ends, signs that a spreadsheet would run, numbers with three decimals and with thousands.
 */
const text = fc
  .oneof(
    fc.string({ minLength: 1, maxLength: 12 }),
    fc.constantFrom(" Dig ", "Pour  ", "=1+1", "'-x", "1.500", "12,500", "a;b", 'quoted "x"', "24.11.2026"),
  )
  .filter((each) => each.trim() !== "" && !/[\u0000-\u001f\u007f\uFEFF\ufffe\uffff\ud800-\udfff]/.test(each));
const share = fc.constantFrom(12.5, 33.333, 0.125, 100, 1.125, 2.375);
const plan = fc
  .record({
    names: fc.array(text, { minLength: 1, maxLength: 5 }),
    units: share,
    tight: share,
    minor: fc.constantFrom(0, 1000, 8_714_400),
    minutes: fc.constantFrom(30, 1500, 12_500),
  })
  .map(({ names, units, tight, minor, minutes }): PlanBundle => {
    const base = smallPlan();
    const activities = names.map((name, i) => ({
      id: `a${i}`,
      name,
      durationMinutes: minutes + i,
      parent: "top",
      credit: {
        rule: "steps" as const,
        steps: [
          { name: "One", weight: units },
          { name: "Two", weight: tight },
        ],
      },
    }));
    return {
      ...base,
      project: { ...base.project, name: names[0]!, tightDays: tight },
      activities: [{ id: "top", name: "Top ", kind: "summary" }, ...activities],
      links: [],
      assignments: [{ activity: "a0", person: "ann", plannedMinutes: minutes, unitsPercent: units }],
      costs: [{ id: "c1", activity: "a0", category: names[0]!, plannedMinor: minor, timing: "start" }],
    };
  });

describe("what is written here is read back exactly", () => {
  const forms: [string, string, (bundle: PlanBundle) => Promise<Uint8Array>][] = [
    ["CSV", "plan.zip", async (bundle) => writeCsvZip(bundle)],
    ["CSV written anew where a comma parts decimals", "plan.zip", async (bundle) => writtenAnew(writeCsvZip(bundle))],
    ["a workbook", "plan.xlsx", (bundle) => writeWorkbook(bundle)],
  ];
  it.each(forms)(
    "%s: no number is another, no name loses a space, nothing is asked",
    async (_, name, write) => {
      await fc.assert(
        fc.asyncProperty(plan, async (bundle) => {
          const checked = parseBundle(bundle);
          fc.pre(checked.ok);
          const back = await readBack(name, await write(bundle));
          expect(back.problems).toEqual([]);
          expect(back.asked).toBeNull();
          for (const table of ["project", "activities", "assignments", "costs", "people"] as const)
            expect(back.bundle![table]).toEqual(bundle[table]);
        }),
        { numRuns: 60 },
      );
    },
    120_000,
  );

  it.each(["ods", "xlsx"])(
    "and so it is after another spreadsheet program has stored it anew as %s",
    async (ending) => {
      const fixture = (form: string): Buffer => readFileSync(join(__dirname, "fixtures", `elsewhere.${form}`));
      const written = JSON.parse(fixture("json").toString()) as PlanBundle;
      const back = await readBack(`plan.${ending}`, new Uint8Array(fixture(ending)));
      expect([back.problems, back.asked]).toEqual([[], null]);
      const { baselines, actualCosts, ...plan } = back.bundle!;
      expect([plan, baselines, actualCosts]).toEqual([written, [], []]);
    },
  );

  it("an OpenDocument spreadsheet of others holds times, percentages, dates, errors and rows said once for many", () => {
    const cells = `<table:table-row><table:table-cell office:value-type="time" office:time-value="PT36H30M00S"><text:p>36:30</text:p></table:table-cell><table:table-cell office:value-type="percentage" office:value="0.4"/><table:table-cell office:value-type="date" office:date-value="2026-03-02"/><table:table-cell office:value-type="boolean" office:boolean-value="true"/></table:table-row>
      <table:table-row table:number-rows-repeated="2"><table:table-cell table:number-columns-repeated="3"/><table:table-cell office:value-type="string"><text:p>a<text:s text:c="2"/>b</text:p><text:p>c</text:p></table:table-cell></table:table-row>
      <table:table-row table:number-rows-repeated="3"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>
      <table:table-row><table:table-cell office:value-type="string" calcext:value-type="error"><text:p>#REF!</text:p></table:table-cell><table:table-cell office:value-type="float" office:value="7"><office:annotation><text:p>a word aside</text:p></office:annotation><text:p>7</text:p></table:table-cell></table:table-row>
      <table:table-row table:number-rows-repeated="1048000"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>`;
    const [sheet] = readOds(
      "x.ods",
      `<office:document-content><office:body><office:spreadsheet><table:table table:name="One">${cells}</table:table></office:spreadsheet></office:body></office:document-content>`,
    );
    const text = [null, null, null, "a  b\nc"];
    expect(sheet!.rows).toEqual([
      [{ minutes: 2190, shown: "36:30" }, 40, { date: "2026-03-02" }, true],
      text,
      text,
      [],
      [],
      [],
      [{ fault: "holds the error #REF!" }, 7],
    ]);
    expect(() => readOds("x.ods", "<a><b></a>")).toThrow(/is no spreadsheet that can be read/);
  });

  it("an OpenDocument spreadsheet of others says what lies below what by indents of cells, and by groups of rows", () => {
    const style = (name: string, margin: string, family = "table-cell"): string =>
      `<style:style style:name="${name}" style:family="${family}"><style:paragraph-properties fo:text-align="start" fo:margin-left="${margin}"/></style:style>`;
    const cell = (text: string, of: string): string =>
      `<table:table-row><table:table-cell table:style-name="${of}" office:value-type="string"><text:p>${text}</text:p></table:table-cell></table:table-row>`;
    const styles = style("ce1", "0.353cm") + style("ce2", "0.278in") + style("ce3", "10mm", "paragraph");
    const group = (rows: string): string => `<table:table-row-group>${rows}</table:table-row-group>`;
    const rows = `${cell("Works", "none")}${group(`${cell("Dig", "ce1")}${group(cell("Deep", "ce2"))}`)}${cell("Open", "ce3")}`;
    const [sheet] = readOds(
      "x.ods",
      `<office:document-content><office:automatic-styles>${styles}</office:automatic-styles><office:body><office:spreadsheet><table:table table:name="One">${rows}</table:table></office:spreadsheet></office:body></office:document-content>`,
    );
    // In tenths of a millimetre: 0.353 cm, and 0.278 in of 25.4 mm.
    expect([sheet!.indents, sheet!.levels]).toEqual([
      [0, 35, 71, 0],
      [0, 1, 2, 0],
    ]);
  });

  it("numbers of others that can be read two ways are asked about, and an answer settles all of them", async () => {
    const csv = "id,name,days\n1,Dig,1.125\n2,Pour,2.250\n";
    const file = await readFiles([{ name: "activities.csv", data: strToU8(csv) }]);
    const asked = understand(file, { project: { start: "2026-03-02" } }, NOTHING_KNOWN, "activities.csv");
    expect([asked.view.numberQuestion, asked.bundle]).toEqual([
      { sample: "1.125", point: "1.125", comma: "1125" },
      null,
    ]);
    expect(asked.view.problems[0]!.message).toMatch(/can be read as 1.125 or as 1125/);
    const minutes = (numberStyle: "point" | "comma") =>
      understand(
        file,
        { project: { start: "2026-03-02" }, numberStyle },
        NOTHING_KNOWN,
        "activities.csv",
      ).bundle?.activities.map(({ durationMinutes }) => durationMinutes);
    expect([minutes("point"), minutes("comma")]).toEqual([
      [540, 1080],
      [540_000, 1_080_000],
    ]);
  });
});
