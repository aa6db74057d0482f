import type { z } from "zod";
import { valueAt, wordsOf } from "../words/schemaWords.ts";
import { fromPlanFile, openPart, planFileSchema, saidTwice, type PlanFile } from "../file/planFile.ts";
import { fromBundle, toBundle, type Plan } from "../plan.ts";
import { bundleSchema, type PlanBundle } from "../schema.ts";
import { linkLabel, pairLabel, type Problem, type TableName } from "../problem.ts";
import { checkOwnTables } from "./checkOwnTables.ts";
import { checkPlan } from "./checkPlan.ts";

/** What a checked file says. */
export interface Parsed {
  readonly ok: true;
  /** What is computed from: version 1, with the bounds that timeboxes give as date wishes. */
  readonly bundle: PlanBundle;
  /** The file, where it is of version 2. */
  readonly file: PlanFile | null;
}
type Outcome = Parsed | { readonly ok: false; readonly problems: Problem[] };

/** The plan that a checked file holds. */
export const planIn = ({ bundle, file }: Parsed): Plan => (file === null ? fromBundle(bundle) : fromPlanFile(file));

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

const ONE_AN_ACTIVITY: ReadonlySet<string> = new Set([
  ...["ownValues", "blocks", "promises", "notes", "ranges", "boxed", "gathered"],
]);

/** How a row of unknown shape is called, by what it says of itself, else by its place counted from 1. */
function rowLabel(table: string, row: unknown, index: number): string {
  const place = `#${index + 1}`;
  if (!isRecord(row)) return place;
  const has = (field: string): boolean => typeof row[field] === "string" && row[field] !== "";
  if (table === "links" && has("from") && has("to")) return linkLabel(row as { from: string; to: string });
  if (table === "baselines" && typeof row["number"] === "number") return String(row["number"]);
  if (table === "assignments" && has("activity") && has("person"))
    return pairLabel(row["activity"] as string, row["person"] as string);
  if (has("id")) return row["id"] as string;
  if (ONE_AN_ACTIVITY.has(table) && has("activity")) return row["activity"] as string;
  if (has("activity")) return pairLabel(row["activity"] as string, place);
  return place;
}

const fieldPath = (path: readonly PropertyKey[]): string =>
  path
    .map((part, i) => (typeof part === "number" ? `[${part}]` : i === 0 ? String(part) : `.${String(part)}`))
    .join("");

function problemsOf(issue: z.core.$ZodIssue, input: unknown): Problem[] {
  const [table, second, ...rest] = issue.path;
  const value = valueAt(input, issue.path);
  const place = placeOf(table, second, rest, input);
  if (issue.code === "unrecognized_keys") {
    return issue.keys.map((key) => ({
      ...place,
      field: place.field === "" ? key : `${place.field}.${key}`,
      message: "is not a field of this format; remove it or correct its name",
    }));
  }
  return [{ ...place, message: wordsOf(issue, value) }];
}

function placeOf(
  table: PropertyKey | undefined,
  second: PropertyKey | undefined,
  rest: readonly PropertyKey[],
  input: unknown,
) {
  if (table === undefined || table === "format" || table === "version") {
    return { table: "bundle" as const, row: "", field: table === undefined ? "" : String(table) };
  }
  const name = String(table) as TableName;
  if (typeof second !== "number")
    return { table: name, row: "", field: fieldPath(second === undefined ? [] : [second, ...rest]) };
  const row = rowLabel(name, valueAt(input, [name, second]), second);
  const [inner, index, ...deep] = rest;
  if (name === "baselines" && inner === "activities" && typeof index === "number") {
    const innerRow = valueAt(input, [name, second, inner, index]);
    return { table: name, row: pairLabel(row, rowLabel("baseline rows", innerRow, index)), field: fieldPath(deep) };
  }
  return { table: name, row, field: fieldPath(rest) };
}

/** An own `__proto__` is the one unknown field that a check by keys may pass over. */
function hiddenFields(input: unknown): Problem[] {
  const found: Problem[] = [];
  const visit = (value: unknown, path: PropertyKey[]): void => {
    if (typeof value !== "object" || value === null) return;
    if (Array.isArray(value)) for (let i = 0; i < value.length; i++) visit(value[i], [...path, i]);
    else if (Object.hasOwn(value, "__proto__")) {
      const place = placeOf(path[0], path[1], path.slice(2), input);
      found.push({
        ...place,
        field: place.field === "" ? "__proto__" : `${place.field}.__proto__`,
        message: "is not a field of this format; remove it",
      });
    } else for (const [key, inner] of Object.entries(value)) visit(inner, [...path, key]);
  };
  visit(input, []);
  return found;
}

/**
 * Takes anything for a plan bundle of either version and checks it whole: shape, references, and what section 2 of
 * calculations.md refuses. What a project keeps besides its plan (`record`) is left unread.
 * @param input what `JSON.parse` gave
 * @param options.source the JSON text, if at hand; lets a search for hidden fields be left out
 * @returns the bundle, or every problem with its table, row and field
 */
export function parseBundle(input: unknown, options: { source?: string } = {}): Outcome {
  if (isRecord(input) && typeof input["version"] === "number" && input["version"] > 2)
    return { ok: false, problems: [{ table: "bundle", row: "", field: "version", message: LATER }] };
  const isFile = isRecord(input) && input["version"] === 2;
  const plain = isFile ? { ...input, record: undefined } : input;
  const parsed = (isFile ? planFileSchema : bundleSchema).safeParse(plain);
  const problems = parsed.success ? [] : parsed.error.issues.flatMap((issue) => problemsOf(issue, plain));
  const maybeHidden = options.source === undefined || options.source.includes("__proto__");
  if (maybeHidden) problems.push(...hiddenFields(plain));
  if (problems.length > 0 || !parsed.success) return { ok: false, problems: dedupe(problems) };
  if (isFile) return checkedFile({ ...(parsed.data as PlanFile), record: input["record"] });
  const found = checkPlan(parsed.data as PlanBundle);
  return found.length > 0
    ? { ok: false, problems: found }
    : { ok: true, bundle: parsed.data as PlanBundle, file: null };
}

const LATER = "must be 1 or 2; bring this installation up to date to read a later one";

/** Checks a file of version 2 whose shape is right: its rows as version 1 has them, then what it holds besides. */
function checkedFile(file: PlanFile): Outcome {
  const twice = saidTwice(file).map(({ table, key, field }) => ({
    ...{ table, row: key, field },
    message: "stands more than once in this table; each stands there once",
  }));
  const found = twice.length > 0 ? twice : checkPlan(openPart(file));
  if (found.length > 0) return { ok: false, problems: found };
  const plan = fromPlanFile(file);
  const bundle = toBundle(plan);
  // Where timeboxes give bounds, those are wishes that have to hold too.
  const besides = [...checkOwnTables(plan), ...(plan.boxed.size > 0 ? checkPlan(bundle) : [])];
  return besides.length > 0 ? { ok: false, problems: besides } : { ok: true, bundle, file };
}

function dedupe(problems: Problem[]): Problem[] {
  const seen = new Set<string>();
  return problems.filter((problem) => {
    const key = `${problem.table}\0${problem.row}\0${problem.field}`;
    return seen.has(key) ? false : seen.add(key);
  });
}
