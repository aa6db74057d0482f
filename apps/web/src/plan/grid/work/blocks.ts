import { ungrouped, type Change } from "@chronometra/core";
import type { SheetRow } from "../../engine/sheet.ts";
import type { Reading, SheetColumn } from "../../engine/sheetColumn.ts";

/** Cells that are chosen: rows in their order, and columns, both ends counted. */
export interface Block {
  readonly rows: readonly SheetRow[];
  readonly left: number;
  readonly right: number;
}

/** A cell's text as it is copied: what one would type to get it back, where that can be typed. Spreadsheets know no spaces in numbers. */
function cellText(row: SheetRow, column: SheetColumn, reading: Reading): string {
  const text =
    column.edit !== undefined && column.closed?.(row) === null ? column.edit(row) : column.text(row, reading);
  return column.numeric === true ? ungrouped(text) : text;
}

/** A block as text for a spreadsheet. */
export const copyBlock = (
  columns: readonly SheetColumn[],
  { rows, left, right }: Block,
  reading: Reading,
): string[][] => rows.map((row) => columns.slice(left, right + 1).map((column) => cellText(row, column, reading)));

/** What writing a block of texts into cells comes to. */
export interface Written {
  readonly changes: Change[];
  /** What the plan itself has to read, once the rows that are named are there. */
  readonly asked: { readonly activity: string; readonly text: string; readonly what: "links" | "people" }[];
  /** Cells that cannot be written, each with where and why; with one of them nothing is. */
  readonly faults: string[];
  /** How many rows were added below the last. */
  readonly added: number;
}

interface Target {
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
  readonly top: number;
  readonly left: number;
  readonly reading: Reading;
  readonly newId: (n: number) => string;
  /** How many lines of the block came before these. */
  readonly first?: number;
}

/** A row that is not there yet, below the last one and beside it. */
const rowToCome = (id: string, name: string, like: SheetRow | undefined): SheetRow => ({
  id,
  name,
  kind: "work",
  parent: like?.parent ?? null,
  depth: like?.depth ?? 0,
  wbs: "",
  children: 0,
  parked: false,
  mooredAt: null,
  dayMinutes: like?.dayMinutes ?? 480,
  durationMinutes: null,
  percent: null,
  earned: null,
  remainingMinutes: null,
  actualStart: null,
  actualFinish: null,
  dropped: false,
  deadline: null,
  deadlineState: null,
  marginDays: null,
  dates: null,
  approved: null,
  drift: null,
  after: "",
  people: "",
  owner: null,
  ownerName: "",
  calendar: null,
  calendarName: "",
  drivenBy: "length",
  wish: null,
  plannedMinutes: 0,
  budgetMinor: 0,
  values: {},
});

/**
 * Writes texts into cells from a corner on, rows below the last one being added where a name comes for them.
 * Computed cells are passed over, so that what was copied with them can be pasted back.
 */
export function writeBlock(
  texts: readonly (readonly string[])[],
  { rows, columns, top, left, reading, newId, first = 0 }: Target,
): Written {
  const written: Written & { added: number } = { changes: [], asked: [], faults: [], added: 0 };
  const nameAt = columns.findIndex(({ id }) => id === "name") - left;
  const last = rows.at(-1);
  const parent = last?.parent ?? undefined;
  texts.forEach((line, r) => {
    let row = rows[top + r];
    if (row === undefined) {
      const name = line[nameAt]?.trim() ?? "";
      if (name === "")
        return void written.faults.push(
          `Row ${first + r + 1} of what was pasted lies below the last row and brings no name.`,
        );
      row = rowToCome(newId(written.added++), name, last);
      written.changes.push({
        type: "addRow",
        table: "activities",
        key: row.id,
        row: { id: row.id, name, ...(parent === undefined ? {} : { parent }) },
      });
    }
    line.forEach((text, c) => writeCell(row, columns[left + c], text, reading, written));
  });
  return { ...written, changes: intoNewRows(written.changes) };
}

/** Durations of rows that are added along stand in them: a change less for each. */
function intoNewRows(changes: readonly Change[]): Change[] {
  const minutes = new Map(
    changes.flatMap((change) =>
      change.type === "setDuration" && change.minutes !== null ? [[change.activity, change.minutes] as const] : [],
    ),
  );
  const fresh = new Set(
    changes.flatMap((change) => (change.type === "addRow" && change.table === "activities" ? [change.key] : [])),
  );
  if (fresh.size === 0) return [...changes];
  return changes.flatMap((change): Change[] => {
    if (change.type === "setDuration" && fresh.has(change.activity)) return [];
    return change.type === "addRow" && change.table === "activities" && minutes.has(change.key)
      ? [{ ...change, row: { ...change.row, durationMinutes: minutes.get(change.key)! } }]
      : [change];
  });
}

function writeCell(
  row: SheetRow,
  column: SheetColumn | undefined,
  text: string,
  reading: Reading,
  written: Written,
): void {
  if (column?.edit === undefined || text.trim() === cellText(row, column, reading)) return;
  const closed = column.closed?.(row) ?? null;
  if (closed !== null) {
    if (text.trim() !== "") written.faults.push(`${column.head} of “${row.name}”: ${closed}`);
    return;
  }
  if (column.asks !== undefined) return void written.asked.push({ activity: row.id, text, what: column.asks });
  const typed = column.read!(text, row, reading);
  if ("fault" in typed) written.faults.push(`${column.head} of “${row.name}”: ${typed.fault}`);
  else written.changes.push(...typed.changes);
}

/** The first row of a block, said again for every row of it. */
export const fillTexts = (columns: readonly SheetColumn[], block: Block, reading: Reading): string[][] => {
  const [first] = copyBlock(columns, { ...block, rows: block.rows.slice(0, 1) }, reading);
  return first === undefined ? [] : block.rows.map(() => first);
};

/** What this page calls rows of its own: two people who add rows at once must not mean the same. */
const PAGE = Array.from(crypto.getRandomValues(new Uint8Array(4)), (byte) => (byte % 36).toString(36)).join("");

/** Ids that no row has yet, nor will have elsewhere, counted on from the highest number there is. */
export function idsAfter(rows: readonly SheetRow[], page = PAGE): (n: number) => string {
  const taken = new Set(rows.map(({ id }) => id));
  let highest = 0;
  for (const id of taken) {
    const match = /^n(\d{1,9})(?:-|$)/.exec(id);
    if (match !== null) highest = Math.max(highest, Number(match[1]));
  }
  return (n) => `n${highest + 1 + n}-${page}`;
}
