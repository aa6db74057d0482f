import writeXlsxFile, { type Cell } from "write-excel-file/universal";
import type { FileTable } from "./fileTable.ts";

const DATE = /^\d{4}-\d{2}-\d{2}$/;
const DATE_FORMAT = "yyyy-mm-dd";
/** What names of sheets may not have, and how long they may be. */
const NOT_IN_A_NAME = /[[\]:*?/\\]/g;
const NAME_AT_MOST = 31;

/** A cell as it is: dates are dates, numbers numbers, and text is never run. */
function cellOf(value: string | number | null): Cell {
  if (value === null || value === "") return null;
  if (typeof value === "number") return { value, type: Number };
  return DATE.test(value)
    ? { value: new Date(`${value}T00:00:00Z`), type: Date, format: DATE_FORMAT }
    : { value, type: String };
}

/** A table as a workbook of one sheet with its heading held in sight. */
export async function workbookOf(name: string, { heads, data }: FileTable): Promise<Blob> {
  const rows = [
    heads.map((value): Cell => ({ value, type: String, fontWeight: "bold" })),
    ...data.map((row) => row.map(cellOf)),
  ];
  const sheet = name.replace(NOT_IN_A_NAME, " ").replace(/\s+/g, " ").trim().slice(0, NAME_AT_MOST).trim();
  return writeXlsxFile(rows, { sheet, stickyRowsCount: 1 }).toBlob();
}
