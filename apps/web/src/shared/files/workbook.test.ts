import ExcelJS from "exceljs";
import { fileName } from "./saveFile.ts";
import { workbookOf, workbookOfAll } from "./workbook.ts";

describe("a table as a workbook", () => {
  it("is read by another reader as it was: dates are dates, numbers numbers, and nothing is run", async () => {
    const heads = ["Name", "Finish", "Cost", "Words"];
    const data = [
      ['=HYPERLINK("x")', "2026-11-28", 87_144.5, "2026-11-28 or so"],
      ["", null, -3, "Ünïcödé <b>&amp;</b>"],
    ];
    const blob = await workbookOf("Costs: [all] of 2026/27, and a name that is longer than a sheet may bear", {
      heads,
      data,
    });
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(await blob.arrayBuffer());
    const [sheet] = workbook.worksheets;
    expect(sheet!.name).toBe("Costs all of 2026 27, and a nam");
    expect(sheet!.views[0]).toMatchObject({ state: "frozen", ySplit: 1 });
    const values = (row: number) => heads.map((_head, i) => sheet!.getRow(row).getCell(i + 1).value);
    expect(values(1)).toEqual(heads);
    expect(values(2)).toEqual(['=HYPERLINK("x")', new Date("2026-11-28"), 87_144.5, "2026-11-28 or so"]);
    expect(values(3)).toEqual([null, null, -3, "Ünïcödé <b>&amp;</b>"]);
  });

  it("has a sheet for each of several, whose names are told apart", async () => {
    const table = { heads: ["A"], data: [[1]] };
    const long = "A name that is longer than a sheet may bear";
    const blob = await workbookOfAll([long, long, "Costs", "costs", "[]"].map((name) => ({ name, table })));
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(await blob.arrayBuffer());
    expect(workbook.worksheets.map(({ name }) => name)).toEqual([
      ...["A name that is longer than a sh", "A name that is longer than a 2", "Costs", "costs 2", "Table"],
    ]);
  });

  it("is called after what it holds, in any script", () => {
    expect(fileName("Costs: all, 2026/27", "xlsx")).toBe("costs-all-2026-27.xlsx");
    expect(fileName("Überfällig – 係", "csv")).toBe("überfällig-係.csv");
  });
});
