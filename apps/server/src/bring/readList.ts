import {
  LIST_COLUMNS,
  MOST_LISTED,
  type BroughtList,
  type DateOrder,
  type MatterKind,
  type Me,
  type NewMatter,
} from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { readCells } from "../exchange/importService.ts";
import { rowNumber, tableOf, type OneTable } from "../exchange/match/oneTable.ts";
import { dropFiles, type Received } from "../exchange/receiveFiles.ts";
import { dependsOnOrder, soleOrder, type HowRead } from "../exchange/sheets/readCells.ts";
import { styleOfColumn } from "../exchange/sheets/numbers.ts";
import { titledSo } from "../matters/matterRows.ts";
import { matterSettings } from "../matters/matterSettings.ts";
import { Failure } from "../shared/failure.ts";
import { peopleByName, placesByName } from "./known.ts";
import { matchHeadings, ownColumns } from "./listColumns.ts";
import { readLine } from "./readLines.ts";

/** What whoever brings a list says of it. */
export interface Said {
  readonly kind: MatterKind | null;
  readonly project: string | null;
  readonly order: DateOrder | undefined;
  /** What columns hold, by their headings. */
  readonly columns: Readonly<Record<string, string>>;
}

async function tableIn(files: readonly Received[]): Promise<OneTable> {
  const [file, other] = files;
  if (file === undefined) throw new Failure("invalid", "No file came with the call; select one.");
  try {
    if (other !== undefined) throw new Failure("invalid", "A list is one file; bring one after the other.");
    const source = await readCells([file]);
    if (source.kind !== "tables")
      throw new Failure("invalid", `${file.name}: is a plan bundle; bring a list as CSV or a workbook.`);
    const table = tableOf(source.sheets);
    if (table.rows.length > MOST_LISTED)
      throw new Failure(
        "invalid",
        `${file.name}: has ${table.rows.length} rows; at most ${MOST_LISTED} are brought at once. Part it.`,
      );
    return table;
  } finally {
    await dropFiles(files);
  }
}

/** How the cells of a column of probabilities are written: in percent, or as shares of 1 where none is above it. */
function percentsOf({ rows }: OneTable, at: number): HowRead {
  const cells = rows.map((row) => row[at]);
  const numbers = cells.filter((cell) => typeof cell === "number");
  return { numbers: styleOfColumn(cells, false).style ?? "point", shares: numbers.every((value) => value <= 1) };
}

const nameOf = ({ kind, project, group, title }: Pick<NewMatter, "kind" | "project" | "group" | "title">): string =>
  JSON.stringify([kind, project, group, title.toLowerCase()]);

/**
 * Understands a table of a file as lines for the registers, with all that is wrong with any of them; stores nothing.
 * @throws {Failure} where it is no table, or too long
 */
export async function readList(
  database: DataSource,
  me: Me,
  files: readonly Received[],
  { kind, project, order, columns }: Said,
): Promise<BroughtList> {
  const table = await tableIn(files);
  const settings = await matterSettings(database);
  const own = ownColumns(settings);
  const matched = matchHeadings(table, own, columns);
  const [personOf, placeOf] = await Promise.all([peopleByName(database), placesByName(database, me)]);
  const reader = {
    ...{ settings, own, columns: matched, order, kind, personOf, placeOf },
    percents: percentsOf(table, matched.indexOf("chance")),
    place: project === null ? null : { project, group: null },
  };
  const read = table.rows.map((row) => readLine(row, reader));
  const there = await titledSo(
    database,
    read.flatMap(({ matter }) => matter?.title ?? []),
  );
  const names = new Set(there.map(nameOf));
  const lines = read.map((line, i) => {
    const name = line.matter === null ? null : nameOf(line.matter);
    const isThere = name !== null && names.has(name);
    if (name !== null) names.add(name);
    return { row: rowNumber(table, i), ...line, isThere };
  });
  return {
    headings: table.headings.flatMap((heading, i) => (heading === "" ? [] : [{ heading, column: matched[i]! }])),
    columns: [
      ...Object.entries(LIST_COLUMNS).map(([id, name]) => ({ id, name })),
      ...[...own].map(([id, { name }]) => ({ id, name })),
    ],
    asksDateOrder: table.rows.some((row) =>
      row.some((cell) => typeof cell === "string" && dependsOnOrder(cell) && soleOrder(cell) === null),
    ),
    lines,
  };
}
