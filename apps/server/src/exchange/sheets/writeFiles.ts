import type { PlanBundle } from "@chronometra/core";
import { Workbook } from "@cj-tech-master/excelts";
import { strToU8, zipSync } from "fflate";
import Papa from "papaparse";
import { harmless, toSheets, type OutCell } from "./toSheets.ts";

const safe = (cell: OutCell): OutCell => (typeof cell === "string" ? harmless(cell) : cell);

/** The bundle as a workbook, a sheet a table. Text stays text, also where it looks like a number or a formula. */
export async function writeWorkbook(bundle: PlanBundle, revision: number | null = null): Promise<Buffer> {
  const workbook = new Workbook();
  for (const sheet of toSheets(bundle, revision)) {
    const page = workbook.addWorksheet(sheet.name, { views: [{ state: "frozen", ySplit: 1 }] });
    page.addRow([...sheet.columns]).font = { bold: true };
    for (const row of sheet.rows) page.addRow(row.map(safe));
  }
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

/** The bundle as CSV files in one zip, a file a table. */
export function writeCsvZip(bundle: PlanBundle, revision: number | null = null): Buffer {
  const files = toSheets(bundle, revision).map((sheet) => {
    const rows = sheet.rows.map((row) =>
      row.map((cell) => (typeof cell === "boolean" ? (cell ? "yes" : "no") : safe(cell))),
    );
    return [
      `${sheet.name}.csv`,
      strToU8(`\uFEFF${Papa.unparse({ fields: [...sheet.columns], data: rows }, { newline: "\r\n" })}`),
    ] as const;
  });
  return Buffer.from(zipSync(Object.fromEntries(files)));
}
