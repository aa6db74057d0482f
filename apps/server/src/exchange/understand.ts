import type { ImportAnswers, ImportProblem, ImportView } from "@chronometra/contract";
import {
  formatDate,
  overfullDays,
  parseBundle,
  PlanProblems,
  schedulePlan,
  type PlanBundle,
  type Problem,
} from "@chronometra/core";
import { buildBundle } from "./buildBundle.ts";
import { columnLetters, dateOrders, numbersIn, readTables, type ReadTables } from "./sheets/readTables.ts";
import { columnsOf, MADE_FROM, SHEET_NAMES, type SheetName } from "./sheets/columns.ts";
import { matchSheets, type KnownHeadings, type MatchedSheet } from "./sheets/matchSheets.ts";
import { numberIn } from "./sheets/numbers.ts";
import type { SourceFile } from "./sheets/readFiles.ts";

/** What a file was understood to say. */
export interface Understood {
  readonly view: Pick<
    ImportView,
    "kind" | "sheets" | "dateQuestion" | "numberQuestion" | "project" | "counts" | "preview" | "problems" | "errors"
  >;
  /** The plan, where nothing stands against storing it. */
  readonly bundle: PlanBundle | null;
  /** The revision of the plan it was made from, where it says so. */
  readonly madeFrom?: number | undefined;
}

const PREVIEWED = 200;
const PROBLEMS_SHOWN = 500;

const located = (problem: Problem, place = ""): ImportProblem => ({ ...problem, place, level: "error" });

function checkBundle(input: unknown): { bundle: PlanBundle | null; problems: Problem[] } {
  const parsed = parseBundle(input);
  if (!parsed.ok) return { bundle: null, problems: parsed.problems };
  try {
    schedulePlan(parsed.bundle);
  } catch (error) {
    if (error instanceof PlanProblems) return { bundle: null, problems: [...error.problems] };
    throw error;
  }
  const impossible = overfullDays(parsed.bundle);
  return { bundle: impossible.length > 0 ? null : parsed.bundle, problems: impossible };
}

/** Reads what a file says, in the light of the answers given; stores nothing. */
export function understand(
  source: SourceFile,
  answers: ImportAnswers,
  known: KnownHeadings,
  fileName: string,
): Understood {
  return source.kind === "bundle"
    ? understandBundle(source.text, answers)
    : understandTables(source.sheets, answers, known, fileName);
}

function understandBundle(text: string, answers: ImportAnswers): Understood {
  let input: unknown;
  try {
    input = JSON.parse(text);
  } catch (error) {
    const problem = located({
      table: "bundle",
      row: "",
      field: "",
      message: `is not JSON: ${(error as Error).message}`,
    });
    return { view: { ...emptyView, kind: "bundle", problems: [problem], errors: 1 }, bundle: null };
  }
  const { bundle, problems } = checkBundle(withProjectAnswers(input, answers));
  return {
    view: {
      ...emptyView,
      kind: "bundle",
      ...describe(bundle),
      problems: problems.slice(0, PROBLEMS_SHOWN).map((problem) => located(problem)),
      errors: problems.length,
    },
    bundle,
  };
}

function withProjectAnswers(input: unknown, { project }: ImportAnswers): unknown {
  const head = (input as { project?: unknown } | null)?.project;
  if (project === undefined || typeof head !== "object" || head === null) return input;
  const said = Object.fromEntries(Object.entries(project).filter(([, value]) => value !== undefined && value !== ""));
  return { ...(input as object), project: { ...head, ...said } };
}

const emptyView = {
  sheets: [],
  dateQuestion: null,
  numberQuestion: null,
  project: null,
  counts: [],
  preview: [],
  problems: [],
  errors: 0,
} satisfies Partial<ImportView>;

function understandTables(
  source: Extract<SourceFile, { kind: "tables" }>["sheets"],
  answers: ImportAnswers,
  known: KnownHeadings,
  fileName: string,
): Understood {
  const sheets = matchSheets(source, answers, known);
  const dates = dateOrders(sheets);
  const order = answers.dateOrder ?? (dates?.orders.length === 1 ? dates.orders[0] : undefined);
  const numbers = numbersIn(sheets, answers.numberStyle);
  const { tables, problems } = readTables(sheets, order, numbers);
  const missing = missingColumns(sheets, tables);
  const { bundle: built, notices } = buildBundle(tables, answers, fileName);
  const all = [...missing, ...problems];
  if (answers.changesTo !== undefined) notices.push(...dropOrphans(built));
  const checked = all.length === 0 ? checkBundle(built) : { bundle: null, problems: [] };
  all.push(...checked.problems.map((problem) => located(problem, placeOf(problem, sheets, tables))));
  const head = built["project"] as Record<string, unknown>;
  const said = (field: string): string => (typeof head[field] === "string" ? (head[field] as string) : "");
  return {
    view: {
      kind: "tables",
      sheets: sheets.map(({ view }) => view),
      numberQuestion:
        numbers.sample === null
          ? null
          : {
              sample: numbers.sample,
              point: String(numberIn(numbers.sample, "point")),
              comma: String(numberIn(numbers.sample, "comma")),
            },
      dateQuestion: dates !== null && dates.orders.length > 1 ? dates : null,
      ...describe(checked.bundle),
      project: { code: said("code"), name: said("name"), start: said("start"), currency: said("currency") },
      ...(checked.bundle === null
        ? {
            counts: SHEET_NAMES.flatMap((table) =>
              tables.has(table) ? [{ table, rows: tables.get(table)!.length }] : [],
            ),
          }
        : {}),
      problems: [...all.slice(0, PROBLEMS_SHOWN), ...notices],
      errors: all.length,
    },
    bundle: checked.bundle,
    madeFrom: tables.get("project")?.[0]?.fields[MADE_FROM] as number | undefined,
  };
}

/**
 * Of a file that brings changes, rows whose activity or person was taken out of it: they go with what they hang on, as
 * they would in the plan.
 */
function dropOrphans(built: Record<string, unknown>): ImportProblem[] {
  type Row = Record<string, unknown>;
  const rowsOf = (table: string): Row[] => (built[table] as Row[] | undefined) ?? [];
  const activities = new Set(rowsOf("activities").map(({ id }) => id));
  const people = new Set(rowsOf("people").map(({ id }) => id));
  const stays: Record<string, (row: Row) => boolean> = {
    links: ({ from, to }) => activities.has(from) && activities.has(to),
    assignments: ({ activity, person }) => activities.has(activity) && people.has(person),
    costs: ({ activity }) => activities.has(activity),
  };
  return Object.entries(stays).flatMap(([table, stay]) => {
    const rows = rowsOf(table);
    const kept = rows.filter(stay);
    if (kept.length === rows.length) return [];
    built[table] = kept;
    return [
      {
        table: table as ImportProblem["table"],
        row: "",
        field: "",
        place: "",
        level: "notice" as const,
        message: `${rows.length - kept.length} of its rows go with an activity or person that the file leaves out.`,
      },
    ];
  });
}

/** Columns that a table cannot do without; an activity without an id is numbered, one without a name has its id's. */
function missingColumns(sheets: readonly MatchedSheet[], tables: ReadTables): ImportProblem[] {
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
    for (const [column, spec] of Object.entries(columnsOf(table))) {
      if (
        spec.required !== true ||
        columns.includes(column) ||
        (table === "activities" && column === "id") ||
        table === "project"
      )
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

/** The cell that a problem of the plan speaks of, where its row can be told. */
function placeOf(problem: Problem, sheets: readonly MatchedSheet[], tables: ReadTables): string {
  const table = problem.table as SheetName;
  const rows = tables.get(table) ?? [];
  const numbered = /^#(\d+)$/.exec(problem.row.split(" / ").at(-1) ?? "");
  const row =
    numbered !== null
      ? rows[Number(numbered[1]) - 1]
      : rows.find(
          ({ fields }) =>
            fields["id"] === problem.row ||
            `${String(fields["from"])} -> ${String(fields["to"])}` === problem.row ||
            `${String(fields["activity"])} / ${String(fields["person"])}` === problem.row,
        );
  if (row === undefined) return "";
  const sheet = sheets.find((candidate) => candidate.source.name === row.sheet);
  const column = sheet?.columns.indexOf(problem.field.replace(/\[.*$/, "")) ?? -1;
  return column < 0 ? `${row.sheet} row ${row.line}` : `${row.sheet}!${columnLetters(column)}${row.line}`;
}

function describe(bundle: PlanBundle | null): Pick<Understood["view"], "project" | "counts" | "preview"> {
  if (bundle === null) return { project: null, counts: [], preview: [] };
  const { code, name, start, currency } = bundle.project;
  const tables = [
    "activities",
    "links",
    "people",
    "assignments",
    "costs",
    "calendars",
    "baselines",
    "timeEntries",
    "actualCosts",
  ] as const;
  return {
    project: { code, name, start, currency },
    counts: tables.map((table) => ({ table, rows: bundle[table]?.length ?? 0 })),
    preview: previewOf(bundle),
  };
}

function previewOf(bundle: PlanBundle): ImportView["preview"] {
  const schedule = schedulePlan(bundle);
  const depth: number[] = [];
  for (const i of schedule.tree.parentsFirst)
    depth[i] = schedule.tree.parentOf[i]! < 0 ? 0 : depth[schedule.tree.parentOf[i]!]! + 1;
  return bundle.activities.slice(0, PREVIEWED).map((activity, i) => {
    const row = schedule.rows[i];
    return {
      id: activity.id,
      name: activity.name,
      depth: depth[i]!,
      duration:
        activity.durationMinutes === undefined
          ? (activity.kind ?? "")
          : `${Math.round((activity.durationMinutes / 480) * 100) / 100} d`,
      start: row == null ? "" : formatDate(row.startDay),
      finish: row == null ? "" : formatDate(row.finishDay),
    };
  });
}
