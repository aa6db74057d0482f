import { numberWords } from "@chronometra/core";
import { SaxesParser, type SaxesTagPlain } from "saxes";
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

/** A cell while it is read: its attributes, and its paragraphs. */
interface Open {
  readonly attributes: Readonly<Record<string, string>>;
  readonly paragraphs: string[];
}

const times = (attributes: Readonly<Record<string, string>>, name: string): number =>
  Number(attributes[name] ?? 1) || 1;

const TIME = /^(-)?PT(?:(\d+)H)?(?:(\d+)M)?(?:(\d+(?:[.,]\d+)?)S)?$/;

function readTime(text: string): Cell {
  const match = TIME.exec(text);
  if (match === null) return { fault: `holds the time ${text}, which cannot be read` };
  const [, sign, hours = "0", minutes = "0", seconds = "0"] = match;
  const size = Number(hours) * 60 + Number(minutes) + Math.round(Number(seconds.replace(",", ".")) / 60);
  return asTime(sign === "-" ? -size : size);
}

/** Tenths of a millimetre, by unit (OpenDocument 1.3, part 3, 18.3.18: `length`). */
const UNITS: Readonly<Record<string, number>> = { cm: 100, mm: 10, in: 254, pt: 254 / 72, pc: 254 / 6, px: 254 / 96 };

/** A length in tenths of a millimetre; 0 where it is none. */
function lengthOf(text: string | undefined): number {
  const [, number, unit] = /^(\d+(?:\.\d+)?)(cm|mm|in|pt|pc|px)$/.exec(text ?? "") ?? [];
  return number === undefined ? 0 : Math.round(Number(number) * UNITS[unit!]!);
}

/** What a cell holds (OpenDocument 1.3, part 3, 19.385: `office:value-type`). */
function valueOf({ attributes, paragraphs }: Open): Cell {
  const text = paragraphs.join("\n");
  if (attributes["calcext:value-type"] === "error") return { fault: `holds the error ${text}` };
  switch (attributes["office:value-type"]) {
    case "float":
    case "currency":
      return Number(attributes["office:value"]);
    case "percentage":
      return asShown(Number(attributes["office:value"]), "%");
    case "date":
      return { date: attributes["office:date-value"]!.slice(0, 16).replace("T00:00", "") };
    case "time":
      return readTime(attributes["office:time-value"]!);
    case "boolean":
      return attributes["office:boolean-value"] === "true";
    default: {
      const said = attributes["office:string-value"] ?? text;
      return said.trim() === "" ? null : said;
    }
  }
}

/**
 * Sheets of an OpenDocument spreadsheet as they are read, rows and cells that are said once for many put in their
 * places.
 */
class Reading {
  readonly sheets: SourceSheet[] = [];
  private rows: Cell[][] = [];
  private indents: number[] = [];
  private levels: number[] = [];
  /** How far styles of cells are indented, by the name of the style that is read and by those that were. */
  private style: string | null = null;
  private readonly margins = new Map<string, number>();
  /** How many groups of rows are open: what is grouped lies below what is not. */
  private group = 0;
  /** How far the first texts of a row are indented, and how many were looked at. */
  private indent = 0;
  private texts = 0;
  private at = 0;
  private row: Cell[] = [];
  private column = 0;
  private repeated = 1;
  private cell: Open | null = null;
  private paragraph: string | null = null;
  /** Within a word that someone wrote beside a cell. */
  private aside = false;
  private count = 0;
  /** What is merged down, by column: said for each of the rows that it spans. */
  private readonly spans = new Map<number, { readonly value: Cell; left: number }>();

  constructor(private readonly fileName: string) {}

  readonly open = ({ name, attributes }: SaxesTagPlain): void => {
    if (name === "table:table")
      this.sheets.push({
        name: attributes["table:name"] ?? `Sheet ${this.sheets.length + 1}`,
        rows: (this.rows = []),
        indents: (this.indents = []),
        levels: (this.levels = []),
      });
    if (name === "table:table") {
      this.at = 0;
      this.group = 0;
      this.spans.clear();
    }
    if (name === "style:style")
      this.style = attributes["style:family"] === "table-cell" ? (attributes["style:name"] ?? null) : null;
    else if (name === "style:paragraph-properties" && this.style !== null)
      this.margins.set(this.style, lengthOf(attributes["fo:margin-left"]));
    else if (name === "table:table-row-group") this.group++;
    else if (name === "table:table-row") {
      [this.row, this.column, this.repeated] = [[], 0, times(attributes, "table:number-rows-repeated")];
      [this.indent, this.texts] = [0, 0];
    } else if (name === "table:table-cell" || name === "table:covered-table-cell")
      this.cell = { attributes, paragraphs: [] };
    else if (name === "office:annotation") this.aside = true;
    else if (name === "text:p" && this.cell !== null && !this.aside) this.paragraph = "";
    else if (this.paragraph !== null && name === "text:s") this.paragraph += " ".repeat(times(attributes, "text:c"));
    else if (this.paragraph !== null && name === "text:tab") this.paragraph += "\t";
    else if (this.paragraph !== null && name === "text:line-break") this.paragraph += "\n";
  };

  readonly text = (text: string): void => {
    if (this.paragraph !== null) this.paragraph += text;
  };

  readonly close = ({ name }: SaxesTagPlain): void => {
    if (name === "office:annotation") this.aside = false;
    else if (name === "style:style") this.style = null;
    else if (name === "table:table-row-group") this.group--;
    else if (name === "text:p" && this.paragraph !== null) {
      this.cell?.paragraphs.push(this.paragraph);
      this.paragraph = null;
    } else if ((name === "table:table-cell" || name === "table:covered-table-cell") && this.cell !== null) {
      const value = this.spanned(name, this.cell);
      if (typeof value === "string" && this.texts++ < INDENTED_TEXTS)
        this.indent = Math.max(
          this.indent,
          leadingSpaces(value) + (this.margins.get(this.cell.attributes["table:style-name"] ?? "") ?? 0),
        );
      this.put(value, times(this.cell.attributes, "table:number-columns-repeated"));
      this.cell = null;
    } else if (name === "table:table-row") this.endRow();
  };

  /** What a cell says, or what the one above that spans it does. */
  private spanned(name: string, cell: Open): Cell {
    const value = valueOf(cell);
    const rows = times(cell.attributes, "table:number-rows-spanned");
    if (rows > 1) this.spans.set(this.column, { value, left: rows - 1 });
    const over = this.spans.get(this.column);
    if (rows > 1 || over === undefined || over.left === 0) return value;
    over.left--;
    return name === "table:covered-table-cell" ? over.value : value;
  }

  private put(value: Cell, count: number): void {
    const end = this.column + count;
    if (value !== null) {
      for (let c = this.column; c < Math.min(end, MAX_COLUMNS); c++) {
        while (this.row.length < c) this.row.push(null);
        this.row.push(value);
        this.count += this.repeated;
      }
      if (this.count > MAX_CELLS)
        throw new Unreadable(`${this.fileName}: has more than ${numberWords(MAX_CELLS)} cells`);
    }
    this.column = end;
  }

  private endRow(): void {
    // Below the last row, and between those that are filled, stand as many empty ones as a sheet can hold.
    if (this.row.length > 0) {
      if (this.at + this.repeated > MAX_ROWS)
        throw new Unreadable(`${this.fileName}: sheet ${this.sheets.at(-1)!.name} has more than ${MAX_ROWS} rows`);
      while (this.rows.length < this.at) {
        this.rows.push([]);
        this.indents.push(0);
        this.levels.push(0);
      }
      for (let i = 0; i < this.repeated; i++) {
        this.rows.push([...this.row]);
        this.indents.push(this.indent);
        this.levels.push(this.group);
      }
    }
    this.at += this.repeated;
  }
}

/**
 * Reads the sheets of an OpenDocument spreadsheet.
 * @param content its `content.xml`
 * @throws {Unreadable} where it is no XML, or holds more than a plan can
 */
export function readOds(fileName: string, content: string): SourceSheet[] {
  const reading = new Reading(fileName);
  const parser = new SaxesParser();
  parser.on("opentag", reading.open);
  parser.on("text", reading.text);
  parser.on("closetag", reading.close);
  parser.on("error", (error) => {
    throw new Unreadable(`${fileName}: is no spreadsheet that can be read (${error.message})`);
  });
  parser.write(content).close();
  return reading.sheets;
}
