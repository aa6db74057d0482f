import type { FileTable } from "../../shared/files/tableText.ts";
import { fileName, FILE_TYPES, saveFile } from "../../shared/files/saveFile.ts";
import { toast } from "../../shared/messages/toast.ts";
import { readDate } from "../../shared/words/words.ts";
import type { Command } from "./commands.ts";

/** A table as it stands on the page, under its name. */
export interface PageTable {
  readonly name: string;
  readonly table: FileTable;
}

const FIELDS = "input, select, textarea";
/** What is said to those who cannot see, what is pressed, and what is drawn is none of what a cell says. */
const NOT_SAID = ".sr-only, .btn, svg, [aria-hidden=true]";

function fieldSays(field: HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement): string {
  if (field instanceof HTMLSelectElement) return field.selectedOptions[0]?.text ?? "";
  if (field instanceof HTMLInputElement && (field.type === "checkbox" || field.type === "radio"))
    return field.checked ? "yes" : "no";
  return field.value;
}

/** What a cell says, with what stands in its fields. */
function textOf(cell: Element): string {
  const copy = cell.cloneNode(true) as Element;
  const copies = copy.querySelectorAll(FIELDS);
  for (const [i, field] of cell.querySelectorAll<HTMLInputElement>(FIELDS).entries())
    copies[i]!.replaceWith(` ${fieldSays(field)} `);
  for (const unsaid of copy.querySelectorAll(NOT_SAID)) unsaid.remove();
  return copy.textContent.replace(/\s+/g, " ").trim();
}

/** As pages write them, with a blank between thousands. */
const NUMBER = /^-?\d{1,3}( \d{3})*(\.\d+)?$|^-?\d+(\.\d+)?$/;
const WHOLE_DATE = /^\d{1,2} \p{L}{3} \d{4}$/u;

/** Text as what it is: numbers as numbers, dates as dates. */
function valueOf(text: string): string | number | null {
  if (text === "" || text === "–") return null;
  const plain = text.replace(/^[−–]/, "-");
  if (NUMBER.test(plain)) return Number(plain.replaceAll(" ", ""));
  return (WHOLE_DATE.test(text) ? readDate(text, "") : null) ?? text;
}

/** The cells of a row, one for each column that it spans. */
const cellsOf = (row: HTMLTableRowElement): (string | number | null)[] =>
  [...row.cells].flatMap((cell) => [
    valueOf(textOf(cell)),
    ...Array.from({ length: Math.max(0, cell.colSpan - 1) }, () => null),
  ]);

/** What a table is called: by itself, by the part of the page that it stands in, or by the heading above it. */
function nameOf(table: HTMLTableElement, page: Element): string {
  const own = table.getAttribute("aria-label") ?? table.caption?.textContent;
  const part = table.closest("section[aria-label], [role=region][aria-label]")?.getAttribute("aria-label");
  const before = [...page.querySelectorAll("h1, h2, h3")].filter(
    (heading) => (heading.compareDocumentPosition(table) & Node.DOCUMENT_POSITION_FOLLOWING) !== 0,
  );
  return (own ?? part ?? before.at(-1)?.textContent ?? "Table").replace(/\s+/g, " ").trim();
}

/** The tables that a page shows, row by row as they stand there; columns that say nothing are left out. */
export function tablesOf(page: Element | null): PageTable[] {
  if (page === null) return [];
  return [...page.querySelectorAll("table")].flatMap((table) => {
    const rows = [...table.rows].map(cellsOf);
    const width = Math.max(0, ...rows.map((row) => row.length));
    const saying = Array.from({ length: width }, (_, i) => i).filter((i) =>
      rows.some((row) => (row[i] ?? null) !== null),
    );
    const kept = rows
      .map((row) => saying.map((i) => row[i] ?? null))
      .filter((row) => row.some((cell) => cell !== null));
    if (kept.length === 0) return [];
    const [heads, ...data] = kept;
    return [{ name: nameOf(table, page), table: { heads: heads!.map((head) => String(head ?? "")), data } }];
  });
}

/** Saves the tables of the page in hand as one workbook; none where it has none. */
export function tablesCommand(page: Element | null, title: string): Command[] {
  if (page === null || page.querySelector("table") === null) return [];
  const run = (): void =>
    void import("../../shared/files/workbook.ts")
      .then(async ({ workbookOfAll }) =>
        saveFile(fileName(title, "xlsx"), await workbookOfAll(tablesOf(page)), FILE_TYPES.xlsx),
      )
      .catch((error: unknown) => toast.error(error instanceof Error ? error.message : String(error)));
  return [{ key: "command tables", name: "Tables of this page as a workbook (.xlsx)", run }];
}
