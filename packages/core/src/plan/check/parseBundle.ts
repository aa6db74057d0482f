import type { z } from "zod";
import { valueAt, wordsOf } from "../words/schemaWords.ts";
import { bundleSchema, type PlanBundle } from "../schema.ts";
import { linkLabel, pairLabel, type Problem, type TableName } from "../problem.ts";
import { checkPlan } from "./checkPlan.ts";

type Outcome = { ok: true; bundle: PlanBundle } | { ok: false; problems: Problem[] };

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** How a row of unknown shape is called, by what it says of itself, else by its place counted from 1. */
function rowLabel(table: string, row: unknown, index: number): string {
  const place = `#${index + 1}`;
  if (!isRecord(row)) return place;
  const has = (field: string): boolean => typeof row[field] === "string" && row[field] !== "";
  if (has("id")) return row["id"] as string;
  if (table === "links" && has("from") && has("to")) return linkLabel(row as { from: string; to: string });
  if (table === "baselines" && typeof row["number"] === "number") return String(row["number"]);
  if (table === "assignments" && has("activity") && has("person"))
    return pairLabel(row["activity"] as string, row["person"] as string);
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
 * Takes anything for a plan bundle and checks it whole: shape, references, and what section 2 of calculations.md
 * refuses.
 * @param input what `JSON.parse` gave
 * @param options.source the JSON text, if at hand; lets a search for hidden fields be left out
 * @returns the bundle, or every problem with its table, row and field
 */
export function parseBundle(input: unknown, options: { source?: string } = {}): Outcome {
  const parsed = bundleSchema.safeParse(input);
  const problems = parsed.success ? [] : parsed.error.issues.flatMap((issue) => problemsOf(issue, input));
  const maybeHidden = options.source === undefined || options.source.includes("__proto__");
  if (maybeHidden) problems.push(...hiddenFields(input));
  if (problems.length > 0 || !parsed.success) return { ok: false, problems: dedupe(problems) };
  const found = checkPlan(parsed.data);
  return found.length > 0 ? { ok: false, problems: found } : { ok: true, bundle: parsed.data };
}

function dedupe(problems: Problem[]): Problem[] {
  const seen = new Set<string>();
  return problems.filter((problem) => {
    const key = `${problem.table}\0${problem.row}\0${problem.field}`;
    return seen.has(key) ? false : seen.add(key);
  });
}
