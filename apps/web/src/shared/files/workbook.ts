import writeXlsxFile, { type Cell } from "write-excel-file/universal";
import type { FileTable } from "./tableText.ts";

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

const rowsOf = ({ heads, data }: FileTable): Cell[][] => [
  heads.map((value): Cell => ({ value, type: String, fontWeight: "bold" })),
  ...data.map((row) => row.map(cellOf)),
];

/** Names that sheets may have, each once: those that are alike are numbered. */
function sheetNames(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => {
    const plain = name.replace(NOT_IN_A_NAME, " ").replace(/\s+/g, " ").trim() || "Table";
    const numbered = (n: number): string => {
      const end = n === 1 ? "" : ` ${n}`;
      return plain.slice(0, NAME_AT_MOST - end.length).trim() + end;
    };
    let n = 1;
    while (taken.has(numbered(n).toLowerCase())) n++;
    taken.add(numbered(n).toLowerCase());
    return numbered(n);
  });
}

/** Tables as a workbook, a sheet each, with their headings held in sight. */
export async function workbookOfAll(
  tables: readonly { readonly name: string; readonly table: FileTable }[],
): Promise<Blob> {
  const names = sheetNames(tables.map(({ name }) => name));
  return writeXlsxFile(
    tables.map(({ table }, i) => ({ data: rowsOf(table), sheet: names[i]!, stickyRowsCount: 1 })),
  ).toBlob();
}

/** A table as a workbook of one sheet. */
export const workbookOf = (name: string, table: FileTable): Promise<Blob> => workbookOfAll([{ name, table }]);
