import { fitText, numberWords } from "@chronometra/core";
import { Workbook, type CellValue, type Worksheet } from "@cj-tech-master/excelts";
import { Unzip, UnzipInflate } from "fflate";
import Papa from "papaparse";
import {
  asShown,
  asTime,
  INDENTED_TEXTS,
  leadingSpaces,
  MAX_CELLS,
  MAX_COLUMNS,
  MAX_ROWS,
  Unreadable,
  type Cell,
  type SourceSheet,
} from "./cells.ts";
import { findUnfit } from "../../shared/fitTexts.ts";
import { readOds } from "./readOds.ts";

/** A file's content, read once: a bundle's JSON, or sheets of cells. */
export type SourceFile =
  | { readonly kind: "bundle"; readonly text: string }
  | { readonly kind: "tables"; readonly sheets: readonly SourceSheet[] };

export interface Upload {
  readonly name: string;
  readonly data: Uint8Array;
}

type Progress = (share: number, step: string) => void;

const MAX_UNPACKED_BYTES = 400 * 1024 * 1024;
/** Deeper than any plan, and less than what takes minutes to read. */
const MAX_DEPTH = 64;

/** Refuses JSON that is nested deeper than a plan can be, before anything is made of it. */
function assertShallow(name: string, text: string): void {
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const sign = text.charCodeAt(i);
    if (quoted) {
      if (sign === BACKSLASH) i++;
      else if (sign === QUOTE) quoted = false;
    } else if (sign === QUOTE) quoted = true;
    else if (sign === 0x5b || sign === 0x7b) {
      if (++depth > MAX_DEPTH)
        throw new Unreadable(`${name}: is nested deeper than ${MAX_DEPTH} levels, which no plan is; it was not read`);
    } else if (sign === 0x5d || sign === 0x7d) depth--;
  }
}

/** What can be an unfit character in JSON, spelled or as itself: few files hold any, and only those are looked at. */
const PERHAPS_UNFIT = /\\u(?:00[01]|007f|20[26]|d[89a-f])|[\u007f\u202a-\u202e\u2066-\u2069]|\p{Surrogate}/iu;

/** Refuses JSON of which a text holds what none may. */
function assertFit(name: string, text: string): void {
  if (!PERHAPS_UNFIT.test(text)) return;
  const unfit = findUnfit(jsonOr(text));
  if (unfit !== null) throw new Unreadable(`${name}: ${unfit.path.join(" / ")} ${unfit.why}; it was not read`);
}

/** What a text says; nothing of one that is no JSON, which is told later with where it breaks off. */
function jsonOr(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

const QUOTE = 0x22;
const BACKSLASH = 0x5c;

/** Refuses CSV with more columns, rows or cells than a plan can have, before anything is made of it. */
function assertBounded(name: string, text: string): void {
  const counts = { ",": 0, ";": 0, "\t": 0 };
  let quoted = false;
  let [rows, cells] = [1, 0];
  for (const sign of text) {
    if (sign === '"') quoted = !quoted;
    if (quoted) continue;
    if (sign === "," || sign === ";" || sign === "\t") {
      cells++;
      if (++counts[sign] > MAX_COLUMNS * 10)
        throw new Unreadable(
          `${name}: row ${rows} has more than ${MAX_COLUMNS * 10} columns, which no plan has; it was not read`,
        );
    } else if (sign === "\n") {
      rows++;
      counts[","] = counts[";"] = counts["\t"] = 0;
    }
    if (rows > MAX_ROWS + 1) throw new Unreadable(`${name}: has more than ${MAX_ROWS} rows`);
    if (cells > MAX_CELLS) throw new Unreadable(`${name}: has more than ${numberWords(MAX_CELLS)} cells`);
  }
}

/**
 * Unpacks a zip, counting what really comes out, whatever its directory claims.
 * @throws {Unreadable} where it would unpack to more than a plan can be
 */
export function unpack(upload: Upload): Map<string, Uint8Array> {
  const files = new Map<string, Uint8Array>();
  let total = 0;
  const unzip = new Unzip((file) => {
    const chunks: Uint8Array[] = [];
    file.ondata = (error, chunk, final) => {
      if (error !== null) throw new Unreadable(`${upload.name}: is damaged (${error.message})`);
      total += chunk.length;
      if (total > MAX_UNPACKED_BYTES)
        throw new Unreadable(`${upload.name}: unpacks to more than 400 MB, which no plan needs; it was not read`);
      chunks.push(chunk);
      if (final) files.set(file.name, Buffer.concat(chunks));
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  const STEP = 1 << 16;
  try {
    for (let at = 0; at < upload.data.length; at += STEP)
      unzip.push(upload.data.subarray(at, at + STEP), at + STEP >= upload.data.length);
  } catch (error) {
    throw error instanceof Unreadable ? error : new Unreadable(`${upload.name}: is damaged or no zip file`);
  }
  if (files.size === 0) throw new Unreadable(`${upload.name}: is damaged or empty`);
  return files;
}

const isZip = (data: Uint8Array): boolean => data[0] === 0x50 && data[1] === 0x4b;

function decode(upload: Upload): string {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(upload.data);
  } catch {
    // Spreadsheets of Western Europe still write this where they do not write UTF-8.
    return new TextDecoder("windows-1252").decode(upload.data);
  }
}

/**
 * Reads a JSON bundle, a workbook (Office Open XML or OpenDocument), one or several CSV files, or a zip of CSV files.
 * @throws {Unreadable} with what is wrong with which file
 */
export async function readFiles(uploads: readonly Upload[], progress: Progress = () => undefined): Promise<SourceFile> {
  const source = await readAny(uploads, progress);
  return source.kind === "bundle" ? source : { ...source, sheets: source.sheets.map(withFitTexts) };
}

/** A sheet whose texts hold nothing that none may: other programs leave such signs where a cell was broken in lines. */
const withFitTexts = (sheet: SourceSheet): SourceSheet => ({
  ...sheet,
  name: fitText(sheet.name),
  rows: sheet.rows.map((row) => row.map((cell) => (typeof cell === "string" ? fitText(cell) : cell))),
});

async function readAny(uploads: readonly Upload[], progress: Progress): Promise<SourceFile> {
  const first = uploads[0];
  if (first === undefined) throw new Unreadable("No file came with the call; select one.");
  if (uploads.length === 1 && isZip(first.data)) {
    const files = unpack(first);
    if ([...files.keys()].some((name) => name.startsWith("xl/"))) return readWorkbook(first, progress);
    const content = files.get("content.xml");
    if (content !== undefined)
      return { kind: "tables", sheets: readOds(first.name, new TextDecoder().decode(content)) };
    const csv = [...files].filter(([name]) => name.toLowerCase().endsWith(".csv"));
    if (csv.length === 0) throw new Unreadable(`${first.name}: holds neither a workbook nor CSV files`);
    return { kind: "tables", sheets: csv.map(([name, data]) => readCsv({ name, data })) };
  }
  if (
    uploads.length === 1 &&
    /^\s*[{[]/.test(decode({ ...first, data: first.data.subarray(0, 200) }).replace(/^\uFEFF/, ""))
  ) {
    const text = decode(first).replace(/^\uFEFF/, "");
    assertShallow(first.name, text);
    assertFit(first.name, text);
    return { kind: "bundle", text };
  }
  const stranger = uploads.find(({ data }) => isZip(data) || data.subarray(0, 4000).includes(0));
  if (stranger !== undefined)
    throw new Unreadable(
      `${stranger.name}: is neither JSON nor CSV; bring a plan bundle (.json), a workbook (.xlsx, .ods), or CSV files`,
    );
  return { kind: "tables", sheets: uploads.map(readCsv) };
}

function readCsv(upload: Upload): SourceSheet {
  const text = decode(upload).replace(/^\uFEFF/, "");
  assertBounded(upload.name, text);
  const parsed = Papa.parse<string[]>(text, { skipEmptyLines: false });
  const fault = parsed.errors.find(({ type }) => type === "Quotes");
  if (fault !== undefined) throw new Unreadable(`${upload.name}: line ${(fault.row ?? 0) + 1}: ${fault.message}`);
  if (parsed.data.length > MAX_ROWS) throw new Unreadable(`${upload.name}: has more than ${MAX_ROWS} rows`);
  const rows = parsed.data.map((row) => row.map((cell): Cell => (cell.trim() === "" ? null : cell)));
  const name = upload.name.replace(/^.*[\\/]/, "").replace(/\.[^.]*$/, "");
  return { name, rows, indents: rows.map(indentOf) };
}

/** How far the first texts of a row are indented by spaces. */
const indentOf = (row: readonly Cell[]): number =>
  Math.max(
    0,
    ...row
      .filter((cell) => typeof cell === "string")
      .slice(0, INDENTED_TEXTS)
      .map(leadingSpaces),
  );

async function readWorkbook(upload: Upload, progress: Progress): Promise<SourceFile> {
  const workbook = new Workbook();
  try {
    await workbook.xlsx.load(upload.data);
  } catch (error) {
    throw new Unreadable(`${upload.name}: is no workbook that can be read (${(error as Error).message})`);
  }
  const sheets: SourceSheet[] = [];
  for (const page of workbook.worksheets) {
    progress(0.2 + (0.3 * sheets.length) / workbook.worksheets.length, `reading sheet ${page.name}`);
    if (page.rowCount > MAX_ROWS || page.columnCount > MAX_COLUMNS * 10)
      throw new Unreadable(`${upload.name}: sheet ${page.name} has more than ${MAX_ROWS} rows or far too many columns`);
    sheets.push(readPage(page, upload.name));
  }
  return { kind: "tables", sheets };
}

function readPage(page: Worksheet, name: string): SourceSheet {
  const rows: Cell[][] = [];
  const indents: number[] = [];
  const levels: number[] = [];
  const width = Math.min(page.columnCount, MAX_COLUMNS);
  let count = 0;
  // Only what is there: between two cells that lie far apart there may be millions that are not.
  page.eachRow((row, number) => {
    const cells: Cell[] = [];
    let indent = 0;
    let texts = 0;
    row.eachCell((cell, c) => {
      if (c > width) return;
      if (++count > MAX_CELLS)
        throw new Unreadable(`${name}: sheet ${page.name} has more than ${numberWords(MAX_CELLS)} cells`);
      while (cells.length < c - 1) cells.push(null);
      // What is merged down is said for each of its rows; what is merged across is said once.
      if (cell.isMerged && cell.master !== cell && cell.master.col !== cell.col) return void cells.push(null);
      const format = typeof cell.numFmt === "object" ? cell.numFmt.formatCode : cell.numFmt;
      const value = asShown(plainValue(cell.value, format), format);
      if (typeof value === "string" && texts++ < INDENTED_TEXTS)
        indent = Math.max(indent, (cell.alignment?.indent ?? 0) * 2 + leadingSpaces(value));
      cells.push(value);
    });
    rows[number - 1] = cells;
    indents[number - 1] = indent;
    levels[number - 1] = row.outlineLevel;
  });
  return {
    name: page.name,
    rows: Array.from(rows, (row) => row ?? []),
    indents: Array.from(indents, (indent) => indent ?? 0),
    levels: Array.from(levels, (level) => level ?? 0),
  };
}

/** Day 0 of a spreadsheet's count. */
const DAY_ZERO = Date.UTC(1899, 11, 30);
const MINUTE_MILLISECONDS = 60_000;

/** Whether a format shows hours and minutes and no day: `h:mm`, `[h]:mm:ss`. */
const isTimeFormat = (format: string | undefined): boolean =>
  format !== undefined &&
  /h|\[m|s/i.test(format.replace(/"[^"]*"|\\./g, "")) &&
  !/[dy]/i.test(format.replace(/"[^"]*"|\\.|\[[^\]hms]*\]/gi, ""));

function plainValue(value: CellValue, format?: string): Cell {
  if (value === null || value === undefined) return null;
  if (typeof value === "number" || typeof value === "boolean") return value;
  if (typeof value === "string") return value.trim() === "" ? null : value;
  if (value instanceof Date && isTimeFormat(format))
    return asTime(Math.round((value.getTime() - DAY_ZERO) / MINUTE_MILLISECONDS));
  if (value instanceof Date)
    return Number.isNaN(value.getTime())
      ? { fault: "is no date" }
      : { date: value.toISOString().slice(0, 16).replace("T00:00", "") };
  if ("richText" in value) return value.richText.map(({ text }) => text).join("");
  if ("error" in value) return { fault: `holds the error ${value.error}` };
  if ("formula" in value || "sharedFormula" in value) {
    const result = (value as { result?: CellValue }).result;
    return result === undefined || result === null
      ? { fault: "holds a formula without a value; save the workbook once more, or paste the value" }
      : plainValue(result, format);
  }
  if ("text" in value) return plainValue(value.text as CellValue, format);
  return { fault: "holds something that is neither text, number nor date" };
}
