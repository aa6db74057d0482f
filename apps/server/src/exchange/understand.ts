import type { ImportAnswers, ImportProblem, ImportView, ProjectRecord } from "@chronometra/contract";
import {
  formatDate,
  fromPlanFile,
  planFileSchema,
  schedulePlan,
  type Plan,
  type PlanBundle,
  type Problem,
} from "@chronometra/core";
import type { Beside } from "../begin/createProject.ts";
import { buildBundle } from "./buildBundle.ts";
import { checkBundle } from "./check/checkBundle.ts";
import { dateOrders, numbersIn, readTables, type ReadTables } from "./match/readTables.ts";
import { furtherProblems, located, missingColumns, unknownPeople } from "./check/problems.ts";
import { datesQuestion, datesWords, disagreements, withDates } from "./ordinary/dates.ts";
import type { KnownRows } from "./ordinary/sense.ts";
import { MADE_FROM, SHEET_NAMES } from "./sheets/columns.ts";
import { matchSheets, type KnownHeadings } from "./match/matchSheets.ts";
import type { House } from "./record/meetHouse.ts";
import { understandRecord } from "./record/understandRecord.ts";
import { numberIn } from "./sheets/numbers.ts";
import type { SourceFile } from "./sheets/readFiles.ts";

/** What a file was understood to say. */
export interface Understood {
  readonly view: Pick<
    ImportView,
    | "kind"
    | "sheets"
    | "dateQuestion"
    | "numberQuestion"
    | "rowKeysQuestion"
    | "datesQuestion"
    | "peopleQuestion"
    | "project"
    | "manager"
    | "counts"
    | "preview"
    | "problems"
    | "errors"
  >;
  /** The plan, where nothing stands against storing it. */
  readonly bundle: PlanBundle | null;
  /** What comes with it and is no part of the open format. */
  readonly beside?: Beside;
  /** Of a file of version 2, which is stored in place of both: whether what its project kept comes along. */
  readonly whole?: { readonly bringsRecord: boolean };
  /** The revision of the plan it was made from, where it says so. */
  readonly madeFrom?: number | undefined;
}

/** What is known from before: headings that were matched, and rows of the installation. */
export interface Known extends KnownRows {
  readonly headings: KnownHeadings;
  readonly installation: House;
}

const PREVIEWED = 200;
const PROBLEMS_SHOWN = 500;

/** Reads what a file says, in the light of the answers given; stores nothing. */
export function understand(source: SourceFile, answers: ImportAnswers, known: Known, fileName: string): Understood {
  return source.kind === "bundle"
    ? understandBundle(source.text, answers, known.installation)
    : understandTables(source.sheets, answers, known, fileName);
}

function understandBundle(text: string, answers: ImportAnswers, installation: House): Understood {
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
  const { bundle, file, problems } = checkBundle(withProjectAnswers(input, answers));
  const besides = file === null ? null : understandRecord(file, answers, installation);
  const all = [...problems, ...(besides?.problems ?? [])];
  const { counts, ...plan } = describe(bundle);
  return {
    view: {
      ...emptyView,
      kind: "bundle",
      ...plan,
      counts: bundle === null ? counts : [...counts, ...(besides?.counts ?? [])],
      manager: besides?.manager ?? null,
      problems: [...all.slice(0, PROBLEMS_SHOWN).map((problem) => located(problem)), ...(besides?.notices ?? [])],
      errors: all.length,
    },
    bundle: all.length > 0 ? null : bundle,
    ...(besides === null ? {} : { whole: { bringsRecord: besides.comes } }),
  };
}

/**
 * What a file of version 2 says that was understood, as it is stored.
 * @param text as it came
 */
export function wholeFile(text: string, answers: ImportAnswers): { plan: Plan; record: ProjectRecord } {
  const file = planFileSchema.parse(withProjectAnswers(JSON.parse(text), answers));
  return { plan: fromPlanFile(file), record: file.record as ProjectRecord };
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
  rowKeysQuestion: null,
  datesQuestion: null,
  peopleQuestion: [],
  project: null,
  manager: null,
  counts: [],
  preview: [],
  problems: [],
  errors: 0,
} satisfies Partial<ImportView>;

function understandTables(
  source: Extract<SourceFile, { kind: "tables" }>["sheets"],
  answers: ImportAnswers,
  known: Known,
  fileName: string,
): Understood {
  const sheets = matchSheets(source, answers, known.headings);
  const dates = dateOrders(sheets);
  const order = answers.dateOrder ?? (dates?.orders.length === 1 ? dates.orders[0] : undefined);
  const numbers = numbersIn(sheets, answers.numberStyle);
  const { tables, problems } = readTables(sheets, order, numbers);
  const built = buildBundle(tables, sheets, answers, known, fileName);
  const notices = [...built.notices];
  const all = [
    ...missingColumns(sheets, tables),
    ...problems,
    ...built.problems,
    ...unknownPeople(built.peopleQuestion),
  ];
  if (answers.changesTo !== undefined) notices.push(...dropOrphans(built.bundle), ...staysBehind(built.beside));
  const checked = checkBundle(built.bundle);
  all.push(...furtherProblems(checked.problems, all, sheets, tables, built.rowById));
  const found = checked.bundle === null ? [] : disagreements(checked.bundle, checked.schedule!, built.given);
  const datesHold = answers.datesOrLinks === "dates";
  if (found.length > 0) notices.push({ ...located(DATES), level: "notice", message: datesWords(found, datesHold) });
  const plan = checked.bundle === null ? null : datesHold ? withDates(checked.bundle, found) : checked.bundle;
  const bundle = all.length === 0 ? plan : null;
  return {
    view: {
      kind: "tables",
      manager: null,
      sheets: sheets.map(({ view }) => view),
      numberQuestion: numberQuestionOf(numbers.sample),
      dateQuestion: dates !== null && dates.orders.length > 1 ? dates : null,
      rowKeysQuestion: built.rowKeysQuestion,
      datesQuestion: datesQuestion(found),
      peopleQuestion: built.peopleQuestion,
      ...describe(plan),
      ...(plan === null ? { counts: countsOf(tables) } : {}),
      project: headOf(built.bundle["project"] as Record<string, unknown>),
      problems: [...all.slice(0, PROBLEMS_SHOWN), ...notices],
      errors: all.length,
    },
    bundle,
    beside: built.beside,
    madeFrom: tables.get("project")?.[0]?.fields[MADE_FROM] as number | undefined,
  };
}

/** What a file that brings changes says besides the open format, and is not taken over. */
const staysBehind = ({ fields, notes }: Beside): ImportProblem[] => {
  const names = [...fields.map(({ name }) => `“${name}”`), ...(Object.keys(notes).length > 0 ? ["notes"] : [])];
  return names.length === 0
    ? []
    : [
        {
          ...located({ table: "fields", row: "", field: "", message: "" }),
          level: "notice",
          message: `${names.join(", ")}: notes and fields of its own come with a new project only, and are left out here.`,
        },
      ];
};

const DATES: Problem = { table: "activities", row: "", field: "start", message: "" };

const numberQuestionOf = (sample: string | null): ImportView["numberQuestion"] =>
  sample === null
    ? null
    : { sample, point: String(numberIn(sample, "point")), comma: String(numberIn(sample, "comma")) };

const countsOf = (tables: ReadTables): ImportView["counts"] =>
  SHEET_NAMES.flatMap((table) => (tables.has(table) ? [{ table, rows: tables.get(table)!.length }] : []));

function headOf(head: Record<string, unknown>): NonNullable<ImportView["project"]> {
  const said = (field: string): string => (typeof head[field] === "string" ? (head[field] as string) : "");
  return {
    code: said("code"),
    name: said("name"),
    start: said("start"),
    currency: said("currency"),
    dataDate: said("dataDate"),
    calendar: said("calendar"),
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

function describe(bundle: PlanBundle | null): Pick<Understood["view"], "project" | "counts" | "preview"> {
  if (bundle === null) return { project: null, counts: [], preview: [] };
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
    project: headOf(bundle.project),
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
