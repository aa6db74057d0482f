import {
  LIST_COLUMNS,
  MATTER_KIND_WORDS,
  MATTER_KINDS,
  matterStateWords,
  STRATEGIES,
  type BroughtList,
  type DateOrder,
  type ListColumn,
  type MatterKind,
  type MatterSettings,
  type NewMatter,
} from "@chronometra/contract";
import { ownValueFault, type OwnField, type OwnValue } from "@chronometra/core";
import { textOf } from "../exchange/match/oneTable.ts";
import type { Cell } from "../exchange/sheets/cells.ts";
import { readCell, type HowRead, type Reading } from "../exchange/sheets/readCells.ts";
import type { Place } from "./known.ts";

/** What lines are read by. */
export interface Reader {
  readonly settings: MatterSettings;
  readonly own: ReadonlyMap<string, OwnField>;
  readonly columns: readonly (string | null)[];
  readonly order: DateOrder | undefined;
  /** How probabilities are written in their column. */
  readonly percents: HowRead;
  /** Which register a line is for that does not say. */
  readonly kind: MatterKind | null;
  /** Where a line goes that does not say. */
  readonly place: Place | null;
  readonly personOf: (text: string) => { readonly value: string } | { readonly fault: string };
  readonly placeOf: (text: string) => { readonly value: Place } | { readonly fault: string };
}

/** Marks of what is not there, as tables that leave this application bear them. */
const NOTHING = new Set(["", "–", "-", "—"]);
const SETTLED = new Set([
  "closed",
  "done",
  "solved",
  "settled",
  "past",
  "decided",
  "taken up",
  "complete",
  "completed",
]);
const OPEN = new Set([
  "open",
  "new",
  "to do",
  "in progress",
  "active",
  "taken for true",
  "to be decided",
  "to be taken up",
]);

/** Reads the cells of one line, and gathers what is wrong with them. */
class Line {
  readonly faults: string[] = [];
  readonly said: Record<string, string> = {};
  private readonly cells = new Map<string, Exclude<Cell, null>>();

  constructor(row: readonly Cell[], columns: readonly (string | null)[]) {
    for (const [i, column] of columns.entries()) {
      const cell = row[i] ?? null;
      const text = textOf(cell);
      if (column === null || cell === null || NOTHING.has(text)) continue;
      this.cells.set(column, cell);
      this.said[column] = text;
    }
  }

  text(column: ListColumn): string {
    const cell = this.cells.get(column);
    return cell === undefined ? "" : (this.value(column, readCell(cell, "text", { numbers: null })) as string);
  }

  value(column: string, reading: Reading): unknown {
    if ("value" in reading) return reading.value;
    const name = (LIST_COLUMNS as Record<string, string>)[column] ?? column;
    this.faults.push(`${name}: ${reading.fault}`);
    return null;
  }

  cell(column: string): Exclude<Cell, null> | undefined {
    return this.cells.get(column);
  }
}

function kindOf(line: Line, { kind }: Reader): MatterKind | null {
  const text = line.text("kind").toLowerCase();
  if (text === "") {
    if (kind === null)
      line.faults.push("it does not say in which register: add a column Kind, or begin in one register");
    return kind;
  }
  const found = MATTER_KINDS.find((each) => MATTER_KIND_WORDS[each].includes(text)) ?? null;
  if (found === null) line.faults.push(`Kind: “${text}” is none of ${MATTER_KINDS.join(", ")}`);
  return found;
}

function placeIn(line: Line, { place, placeOf }: Reader): Place | null {
  const text = line.text("place");
  if (text !== "") {
    const found = placeOf(text);
    if ("value" in found) return found.value;
    line.faults.push(`Of: ${found.fault}`);
  } else if (place === null)
    line.faults.push("it does not say where it belongs: add a column Of with codes of projects");
  return place;
}

function severityOf(line: Line, { settings: { severities } }: Reader): string | null {
  const text = line.text("severity").toLowerCase();
  if (text === "") return null;
  const found = severities.find(({ name }, i) => name.toLowerCase() === text || String(i + 1) === text);
  if (found === undefined)
    line.faults.push(`Severity: “${text}” is no step of the scale: ${severities.map(({ name }) => name).join(", ")}`);
  return found?.id ?? null;
}

function chanceOf(line: Line, kind: MatterKind | null, { percents }: Reader): number | null {
  const cell = line.cell("chance");
  if (kind !== "risk") return null;
  if (cell === undefined) {
    line.faults.push("a risk needs a probability");
    return null;
  }
  const percent = line.value("chance", readCell(cell, "percent", percents)) as number | null;
  if (percent === null) return null;
  if (percent >= 0 && percent <= 100) return percent / 100;
  line.faults.push(`Probability: “${textOf(cell)}” is not between 0 and 100 %`);
  return null;
}

function stateOf(line: Line, kind: MatterKind | null): NewMatter["state"] {
  const text = line.text("state").toLowerCase();
  if (text === "" || kind === null) return "open";
  if (text === matterStateWords(kind, "settled") || SETTLED.has(text)) return "settled";
  if (text !== matterStateWords(kind, "open") && !OPEN.has(text))
    line.faults.push(
      `State: “${text}” is neither “${matterStateWords(kind, "open")}” nor “${matterStateWords(kind, "settled")}”`,
    );
  return "open";
}

function dueOf(line: Line, { order }: Reader): string | null {
  const cell = line.cell("due");
  return cell === undefined
    ? null
    : (line.value("due", readCell(cell, "date", { order, numbers: null })) as string | null);
}

/** A response in one word of those that are known is its kind. */
function responseOf(line: Line): Pick<NewMatter, "strategy" | "response"> {
  const isOne = (text: string) => STRATEGIES.find((each) => each === text.toLowerCase());
  const [said, response] = [line.text("strategy"), line.text("response")];
  const strategy = isOne(said === "" ? response : said) ?? null;
  if (said !== "" && strategy === null)
    line.faults.push(`Kind of response: “${said}” is none of ${STRATEGIES.join(", ")}`);
  return { strategy, response: said === "" && strategy !== null ? "" : response };
}

const OWN_KINDS = { text: "text", choice: "text", number: "number", yesNo: "bool", date: "date" } as const;

function valuesOf(line: Line, kind: MatterKind | null, { own, settings, order }: Reader): Record<string, OwnValue> {
  const values: Record<string, OwnValue> = {};
  for (const [column, field] of own) {
    const cell = line.cell(column);
    if (cell === undefined || kind === null || !settings.fields[kind]?.some(({ id }) => id === field.id)) continue;
    const read = readCell(cell, OWN_KINDS[field.type], { order, numbers: "point" });
    const value = line.value(field.name, read) as OwnValue | null;
    const fault = value === null ? null : ownValueFault(field, value);
    if (fault !== null) line.faults.push(`${field.name}: “${textOf(cell)}” ${fault}`);
    else if (value !== null) values[field.id] = value;
  }
  return values;
}

const TITLE_LENGTH = 200;

/** One line of a table, as something for a register, or with all that is wrong with it. */
export function readLine(row: readonly Cell[], reader: Reader): Omit<BroughtList["lines"][number], "row" | "isThere"> {
  const line = new Line(row, reader.columns);
  const title = line.text("title");
  if (title === "") line.faults.push("it does not say what it is");
  if (title.length > TITLE_LENGTH) line.faults.push(`What: has more than ${TITLE_LENGTH} characters`);
  const kind = kindOf(line, reader);
  const place = placeIn(line, reader);
  const said = line.text("owner");
  const owner = said === "" ? { value: null } : reader.personOf(said);
  if ("fault" in owner) line.faults.push(`Owner: ${owner.fault}`);
  const state = stateOf(line, kind);
  const rest = {
    ...{ title, text: line.text("text"), severity: severityOf(line, reader), due: dueOf(line, reader), state },
    ...{ chance: chanceOf(line, kind, reader), ...responseOf(line), values: valuesOf(line, kind, reader) },
  };
  if (kind === "risk" && place?.project != null && state === "settled")
    line.faults.push("State: a project’s risk that is past is not brought; leave the row out");
  const { faults } = line;
  const isWhole = faults.length === 0 && kind !== null && place !== null && "value" in owner;
  return { said: line.said, faults, matter: isWhole ? { kind, ...place, owner: owner.value, ...rest } : null };
}
