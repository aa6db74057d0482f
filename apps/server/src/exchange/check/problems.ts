import type { ImportProblem, ImportView } from "@chronometra/contract";
import type { Problem } from "@chronometra/core";
import type { Built } from "../buildBundle.ts";
import { columnsOf, type SheetName } from "../sheets/columns.ts";
import type { MatchedSheet } from "../match/matchSheets.ts";
import { cellProblem, type ReadRow, type ReadTables } from "../match/readTables.ts";

/** A problem of the plan, told without a cell. */
export const located = (problem: Problem, place = ""): ImportProblem => ({ ...problem, place, level: "error" });

/** Whoever is named and nobody knows has to be told of before anything is stored. */
export const unknownPeople = (question: ImportView["peopleQuestion"]): ImportProblem[] =>
  question.map(({ name, count, place }) => ({
    table: "people",
    row: name,
    field: "name",
    place,
    level: "error",
    message: `“${name}” is nobody who is known${count > 1 ? `, and named ${count} times` : ""}; say above who it is`,
  }));

/** What stands against the plan as a whole, but for rows that are told of already: mended, they may be as they should. */
export function furtherProblems(
  found: readonly Problem[],
  told: readonly ImportProblem[],
  sheets: readonly MatchedSheet[],
  tables: ReadTables,
  rowById: Built["rowById"],
): ImportProblem[] {
  const rows = new Set(told.map(({ table, row }) => `${table} ${row}`));
  return found
    .filter(({ table, row }) => !rows.has(`${table} ${row}`))
    .map((problem) => placed(problem, sheets, tables, rowById));
}

/** Whether a table cannot do without a column that it does not have. */
function isNeeded(table: SheetName, column: string, columns: readonly (string | null)[]): boolean {
  if (columnsOf(table)[column]?.required !== true || columns.includes(column) || table === "project") return false;
  if (table === "timeEntries" && (column === "state" || columns.includes("hours")))
    return column !== "state" && column !== "minutes";
  return table !== "activities" || column !== "id";
}

/** Columns that a table cannot do without; an activity without an id is numbered, one without a name has its id's. */
export function missingColumns(sheets: readonly MatchedSheet[], tables: ReadTables): ImportProblem[] {
  const problems: ImportProblem[] = [];
  for (const { table, view, columns, source, headingRow } of sheets) {
    if (table === null || (tables.get(table)?.length ?? 0) === 0) continue;
    if (headingRow < 0)
      problems.push({
        table,
        row: "",
        field: "",
        message: "has no row of headings that could be found",
        place: source.name,
        level: "error",
      });
    for (const column of Object.keys(columnsOf(table))) {
      if (!isNeeded(table, column, columns) || sheets.some((each) => each.table === table && column in each.fixed))
        continue;
      const place = view.headingRow === null ? source.name : `${source.name}!${view.headingRow}:${view.headingRow}`;
      problems.push({
        table,
        row: "",
        field: column,
        message: `no column was taken for "${column}"; match one by hand`,
        place,
        level: "error",
      });
    }
  }
  return problems;
}

/** The columns in which people write what the format says in fields and tables of its own. */
const WRITTEN_IN: Readonly<Record<string, readonly string[]>> = {
  durationMinutes: ["durationDays", "durationHours", "durationMinutes", "finish"],
  wish: ["start", "wish.date"],
  actualStart: ["actualStart", "start", "percent", "state"],
  actualFinish: ["actualFinish", "finish", "percent", "state"],
  percent: ["percent", "state"],
  parent: ["parent", "outline", "level"],
  kind: ["kind", "durationDays"],
  "": ["predecessors", "name"],
};

/** Tables whose rows an ordinary sheet says beside its activities: at which of them, and in which columns. */
const BESIDE: Readonly<Record<string, { readonly at: (row: string) => string; readonly columns: readonly string[] }>> =
  {
    links: { at: (row) => row.split(" -> ").at(-1)!, columns: ["predecessors"] },
    assignments: { at: (row) => row.split(" / ")[0]!, columns: ["people", "role", "plannedHours"] },
    costs: { at: (row) => row.replace(/^cost-/, ""), columns: ["cost"] },
  };

interface Found {
  readonly row: ReadRow;
  readonly table: SheetName;
  readonly columns: readonly string[];
}

/** The row of the file that a problem of the plan speaks of, its table, and the columns that may say what is wrong. */
function rowOf({ table, row, field }: Problem, tables: ReadTables, rowById: Built["rowById"]): Found | null {
  const root = field.replace(/\[.*$/, "");
  const columns = [root, ...(WRITTEN_IN[root.replace(/\..*$/, "")] ?? [])];
  const own = tables.get(table as SheetName) ?? [];
  const key = row.split(" / ").at(-1) ?? "";
  const numbered = /^#(\d+)$/.exec(key);
  const called = (fields: ReadRow["fields"]): boolean =>
    fields["id"] === row ||
    `${String(fields["from"])} -> ${String(fields["to"])}` === row ||
    `${String(fields["activity"])} / ${String(fields["person"])}` === row;
  const found =
    (table === "activities" ? rowById.get(row) : undefined) ??
    (numbered !== null ? own[Number(numbered[1]) - 1] : own.find(({ fields }) => called(fields)));
  if (found !== undefined) return { row: found, table: table as SheetName, columns };
  const beside = BESIDE[table];
  const activity = beside === undefined ? undefined : rowById.get(beside.at(row));
  return activity === undefined ? null : { row: activity, table: "activities", columns: beside!.columns };
}

/** What stands against the plan, at the cell that says it where that can be told, else at its row. */
function placed(
  problem: Problem,
  sheets: readonly MatchedSheet[],
  tables: ReadTables,
  rowById: Built["rowById"],
): ImportProblem {
  const found = rowOf(problem, tables, rowById);
  if (found === null) return located(problem);
  const { row, table, columns } = found;
  const sheet = sheets.find((each) => each.source.name === row.sheet && each.table === table);
  const cells = sheet?.source.rows[row.line - 1] ?? [];
  const column = columns.map((each) => sheet?.columns.indexOf(each) ?? -1).find((at) => at >= 0 && cells[at] != null);
  return sheet === undefined || column === undefined
    ? located(problem, `${row.sheet} row ${row.line}`)
    : cellProblem(sheet, column, row.line, problem);
}
