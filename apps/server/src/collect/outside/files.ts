import { dateWords } from "@chronometra/core";
import { createHash, randomUUID } from "node:crypto";
import { readFile } from "node:fs/promises";
import {
  LINE_COLUMNS,
  type DateOrder,
  type LineKind,
  type NumberStyle,
  type Me,
  type OutsideFile,
  type TakenIn,
} from "@chronometra/contract";
import type { Problem } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { accountNames } from "../../access/accounts.ts";
import { KnownHeadingEntity } from "../../exchange/importEntities.ts";
import { readCells } from "../../exchange/importService.ts";
import { plainHeading } from "../../exchange/match/matchSheets.ts";
import { readNumber, styleOfColumn } from "../../exchange/sheets/numbers.ts";
import { dependsOnOrder, readCell, readTime, soleOrder } from "../../exchange/sheets/readCells.ts";
import { dropFiles, type Received } from "../../exchange/receiveFiles.ts";
import type { Cell } from "../../exchange/sheets/cells.ts";
import { dayOf } from "../../shared/clock.ts";
import { Failure, orNotFound } from "../../shared/failure.ts";
import { systemOfFile, type Line } from "./identity.ts";
import { faultsOf, takeIn } from "./takeIn.ts";
import { OutsideFileEntity } from "./outsideEntities.ts";
import { rowNumber, tableOf, textOf, type OneTable } from "../../exchange/match/oneTable.ts";

/** Headings as other systems write them, in lower case without spaces, by column of ours. */
const WORDS: Readonly<Record<string, readonly string[]>> = {
  project: ["project", "projectcode", "projectno", "job", "jobno", "costcentre", "costcenter", "order"],
  activity: ["activity", "activitycode", "task", "wbs", "work", "position", "phase"],
  person: ["person", "name", "employee", "worker", "who", "staff"],
  date: ["date", "invoicedate", "postingdate", "day", "bookedon", "workdate"],
  amount: ["amount", "net", "netamount", "value", "cost", "sum", "total", "price"],
  hours: ["hours", "time", "h", "duration", "quantity"],
  category: ["category", "costtype", "type", "account", "kind"],
  reference: ["reference", "invoice", "invoiceno", "invoicenumber", "document", "number", "no", "id", "voucher"],
  note: ["note", "text", "description", "remark", "comment", "supplier", "vendor"],
};

const headingTable = (kind: LineKind): string => `outside.${kind}`;
const columnsOf = (kind: LineKind): Record<string, boolean> => LINE_COLUMNS[kind];

/** Takes a file of costs or time in; one that was taken before is refused and changes nothing. */
export async function bringFile(
  database: DataSource,
  me: Me,
  kind: LineKind,
  upload: Received | undefined,
): Promise<OutsideFile> {
  if (upload === undefined) throw new Failure("invalid", "No file came with the call; select one.");
  try {
    return await takenIn(database, me, kind, upload);
  } finally {
    await dropFiles([upload]);
  }
}

/** Refuses a file whose lines have been taken in already. */
async function assertNew(database: DataSource, me: Me, kind: LineKind, digest: string): Promise<void> {
  const same = await database.getRepository(OutsideFileEntity).findBy({ digest, kind });
  const before = same.find(({ takenAt }) => takenAt !== null);
  if (before === undefined) return;
  const by = (await accountNames(database)).get(before.broughtBy) ?? "someone";
  throw new Failure(
    "conflict",
    `This very file was taken in on ${dateWords(dayOf(me, before.takenAt!))} by ${by} as “${before.name}”; nothing was changed.`,
  );
}

/** What each heading is taken for: as it was matched before, else by its words; no column twice. */
async function headingsOf(database: DataSource, kind: LineKind, table: OneTable): Promise<OutsideFile["headings"]> {
  const remembered = await database.getRepository(KnownHeadingEntity).findBy({ tableName: headingTable(kind) });
  const known = new Map(remembered.map(({ heading, columnName }) => [heading, columnName]));
  const taken = new Set<string>();
  const byWords = (plain: string): string | null =>
    Object.keys(columnsOf(kind)).find((column) => WORDS[column]!.includes(plain)) ?? null;
  return table.headings.map((heading, i) => {
    const plain = plainHeading(heading);
    const guess = known.get(plain) ?? byWords(plain);
    const column = guess === null || guess === "" || taken.has(guess) ? null : guess;
    if (column !== null) taken.add(column);
    const sample = table.rows.slice(0, 3).map((row) => textOf(row[i]));
    return { heading, column, remembered: known.has(plain), sample: sample.filter((text) => text !== "") };
  });
}

/** A number that may be read in two ways; `null` where there is none. */
function doubtfulIn({ headings, rows }: OneTable): string | null {
  for (let i = 0; i < headings.length; i++) {
    const { style, doubtful } = styleOfColumn(
      rows.map((row) => row[i]),
      false,
    );
    if (style === null && doubtful !== null) return doubtful;
  }
  return null;
}

async function takenIn(database: DataSource, me: Me, kind: LineKind, upload: Received): Promise<OutsideFile> {
  const digest = createHash("sha256")
    .update(await readFile(upload.path))
    .digest("hex");
  await assertNew(database, me, kind, digest);
  const source = await readCells([upload]);
  if (source.kind !== "tables")
    throw new Failure(
      "invalid",
      `${upload.name}: is a plan bundle; bring a table of ${kind === "cost" ? "costs" : "time"} as CSV or a workbook.`,
    );
  const table = tableOf(source.sheets);
  const id = randomUUID();
  await database.getRepository(OutsideFileEntity).insert({
    id,
    digest,
    kind,
    name: upload.name.slice(0, 300),
    broughtBy: me.id,
    broughtAt: new Date(),
    takenAt: null,
    source: JSON.stringify(table),
  });
  return {
    id,
    name: upload.name,
    rows: table.rows.length,
    headings: (await headingsOf(database, kind, table)).filter(({ heading }) => heading !== ""),
    asksDateOrder: table.rows.some((row) =>
      row.some((cell) => typeof cell === "string" && dependsOnOrder(cell) && soleOrder(cell) === null),
    ),
    asksNumbers: doubtfulIn(table),
  };
}

type Styles = Readonly<Record<string, NumberStyle | "mixed" | null>>;

/** How the columns of numbers in a table are written: by their own cells, else as was answered. */
const stylesIn = (
  { rows }: OneTable,
  at: Readonly<Record<string, number>>,
  answered: NumberStyle | undefined,
): Styles =>
  Object.fromEntries(
    ["amount", "hours"].map((column) => [
      column,
      at[column] === undefined
        ? null
        : (styleOfColumn(
            rows.map((row) => row[at[column]!]),
            false,
          ).style ??
          answered ??
          null),
    ]),
  );

/** Minutes of a cell of hours: 1.5, 1:30, 2 d, or a time as a spreadsheet keeps it. */
function minutesOf(
  cell: Cell | undefined,
  style: NumberStyle | "mixed" | null,
): { readonly value: number } | { readonly fault: string } {
  if (cell === null || cell === undefined) return { fault: "are none" };
  const read = readTime(cell, "hours", style);
  return "fault" in read ? read : { value: Math.round((read.value as number) * 60) };
}

/** A row of a file as a line, or what is wrong with which cell of it. */
function lineOf(
  kind: LineKind,
  row: readonly Cell[],
  at: Readonly<Record<string, number>>,
  { order, styles }: { order: DateOrder | undefined; styles: Styles },
): { readonly line: Line } | { readonly faults: string[] } {
  const text = (column: string): string => (at[column] === undefined ? "" : textOf(row[at[column]]));
  const faults: string[] = [];
  const cell = row[at["date"]!] ?? null;
  const date = cell === null ? { fault: "is empty" } : readCell(cell, "date", { order, numbers: null });
  if ("fault" in date) faults.push(`date ${date.fault}`);
  const amount = kind === "cost" ? readNumber(row[at["amount"]!] ?? null, styles["amount"] ?? null) : null;
  if (amount !== null && "fault" in amount) faults.push(`amount ${amount.fault}`);
  const minutes = kind === "time" ? minutesOf(row[at["hours"]!], styles["hours"] ?? null) : null;
  if (minutes !== null && "fault" in minutes) faults.push(`hours ${minutes.fault}`);
  else if (minutes?.value === 0) faults.push(`hours “${text("hours")}” are none`);
  if (text("project") === "") faults.push("project is empty");
  if (faults.length > 0) return { faults };
  return {
    line: {
      project: text("project"),
      activity: text("activity"),
      person: text("person"),
      date: (date as { value: string }).value,
      ...(amount === null || "fault" in amount ? {} : { amount: amount.value }),
      ...(minutes === null || "fault" in minutes ? {} : { minutes: minutes.value }),
      category: text("category"),
      reference: text("reference"),
      note: text("note"),
    },
  };
}

const FAULTS_TOLD = 12;

/** That rows of a file cannot be, by their numbers. */
function refusedRows(problems: readonly Problem[]): Failure {
  const told = problems.slice(0, FAULTS_TOLD).map(({ row, message }) => `row ${row}: ${message}`);
  const more = problems.length > FAULTS_TOLD ? ` … and ${problems.length - FAULTS_TOLD} more rows` : "";
  return new Failure("invalid", `Nothing was taken in: ${told.join(". ")}${more}.`, { problems: [...problems] });
}

/** Takes the lines of a file in, all or none, and remembers how its columns were matched. */
export async function takeFile(
  database: DataSource,
  me: Me,
  id: string,
  columns: Readonly<Record<string, string>>,
  order: DateOrder | undefined,
  numbers: NumberStyle | undefined,
): Promise<TakenIn> {
  const files = database.getRepository(OutsideFileEntity);
  const file = orNotFound(await files.findOneBy({ id, broughtBy: me.id }), "file of yours being taken in");
  if (file.takenAt !== null || file.source === null)
    throw new Failure("conflict", "This file has been taken in already; nothing was changed.");
  const table = JSON.parse(file.source) as OneTable;
  const at: Record<string, number> = {};
  table.headings.forEach((heading, i) => {
    const column = columns[heading];
    if (column !== undefined && column !== "" && Object.hasOwn(columnsOf(file.kind), column)) at[column] ??= i;
  });
  const lacking = Object.entries(columnsOf(file.kind))
    .filter(([column, needed]) => needed && at[column] === undefined)
    .map(([column]) => column);
  if (lacking.length > 0) throw new Failure("invalid", `Say which columns hold: ${lacking.join(", ")}.`);
  const read = table.rows.map((row) => lineOf(file.kind, row, at, { order, styles: stylesIn(table, at, numbers) }));
  const problems = read.flatMap((result, i) =>
    "faults" in result
      ? [{ table: "bundle" as const, row: String(rowNumber(table, i)), field: "", message: result.faults.join("; ") }]
      : [],
  );
  if (problems.length > 0) throw refusedRows(problems);
  const lines = read.flatMap((result) => ("line" in result ? [result.line] : []));
  const impossible = faultsOf(file.kind, lines).flatMap((fault, i) =>
    fault === null ? [] : [{ table: "bundle" as const, row: String(rowNumber(table, i)), field: "", message: fault }],
  );
  if (impossible.length > 0) throw refusedRows(impossible);
  const { lines: _each, ...taken } = await takeIn(
    database,
    file.kind,
    { source: file.name, system: systemOfFile(table.headings) },
    lines,
  );
  await files.update({ id }, { takenAt: new Date(), source: null });
  for (const heading of table.headings.filter((each) => each !== "" && columns[each] !== undefined)) {
    await database
      .getRepository(KnownHeadingEntity)
      .upsert({ tableName: headingTable(file.kind), heading: plainHeading(heading), columnName: columns[heading]! }, [
        "tableName",
        "heading",
      ]);
  }
  return taken;
}
