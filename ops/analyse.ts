/**
 * `npm run --silent analyse -- FILE`: a plan bundle in, every figure out, as docs/plan-bundle.md says; a folder of them in,
 * a line of quality figures a file.
 */
import { readdirSync, readFileSync, statSync } from "node:fs";
import { join } from "node:path";
import { parseArgs } from "node:util";
import {
  analyse,
  computePlan,
  formatProblem,
  measureQuality,
  overfullDays,
  parseBundle,
  parseDate,
  PlanProblems,
  type AnalyseOptions,
  type PeriodKind,
  type PlanBundle,
} from "@chronometra/core";

const USAGE =
  "usage: analyse FILE [--data-date D] [--baseline N | --freeze] [--period workday|week|month]; FILE - is standard input, a folder gives a line of quality figures for each .json file in it";
const PERIODS: readonly string[] = ["workday", "week", "month"];

/** Thrown for what the command itself was told wrong. */
class Refused extends Error {}

interface Request {
  readonly file: string;
  readonly dataDate: string | undefined;
  readonly options: AnalyseOptions;
}

function readArguments(args: string[]): Request {
  const { values, positionals } = parse(args);
  if (positionals.length !== 1) throw new Refused(`expected one FILE; ${USAGE}`);
  const dataDate = values["data-date"];
  if (dataDate !== undefined && parseDate(dataDate) === null) {
    throw new Refused(`--data-date: "${dataDate}" is no date YYYY-MM-DD between 1990-01-01 and 2099-12-31`);
  }
  if (values.freeze === true && values.baseline !== undefined)
    throw new Refused("--freeze and --baseline: give one of them, not both");
  if (values.baseline !== undefined && !/^[1-9]\d{0,8}$/.test(values.baseline))
    throw new Refused(`--baseline: "${values.baseline}" is no baseline number`);
  if (values.period !== undefined && !PERIODS.includes(values.period))
    throw new Refused(`--period: "${values.period}" is none of ${PERIODS.join(", ")}`);
  const baseline =
    values.freeze === true ? "frozen" : values.baseline === undefined ? undefined : Number(values.baseline);
  return {
    file: positionals[0]!,
    dataDate,
    options: {
      ...(baseline === undefined ? {} : { baseline }),
      ...(values.period === undefined ? {} : { period: values.period as PeriodKind }),
    },
  };
}

function parse(args: string[]) {
  try {
    return parseArgs({
      args,
      allowPositionals: true,
      options: {
        "data-date": { type: "string" },
        baseline: { type: "string" },
        freeze: { type: "boolean" },
        period: { type: "string" },
      },
    });
  } catch (error) {
    throw new Refused(`${(error as Error).message.split("\n")[0]}; ${USAGE}`);
  }
}

function readSource(file: string): string {
  try {
    return readFileSync(file === "-" ? 0 : file, "utf8").replace(/^\uFEFF/, "");
  } catch (error) {
    throw new Refused(`${file}: cannot be read: ${(error as Error).message}`);
  }
}

function readJson(file: string, source: string): unknown {
  try {
    return JSON.parse(source);
  } catch (error) {
    throw new Refused(`${file}: is not JSON: ${(error as Error).message}`);
  }
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** A data date of the call stands in place of the file's. */
function withDataDate(input: unknown, dataDate: string | undefined): unknown {
  if (dataDate === undefined || !isRecord(input) || !isRecord(input["project"])) return input;
  return { ...input, project: { ...input["project"], dataDate } };
}

function readPlan(file: string, { dataDate, options: { baseline } }: Request): PlanBundle {
  const source = readSource(file);
  const parsed = parseBundle(withDataDate(readJson(file, source), dataDate), { source });
  if (!parsed.ok) throw new PlanProblems(parsed.problems);
  if (typeof baseline === "number" && !(parsed.bundle.baselines ?? []).some(({ number }) => number === baseline))
    throw new Refused(`--baseline: the plan has no baseline ${baseline}`);
  return parsed.bundle;
}

/** The problems of a failure that is the input's, a line each; anything else is thrown on. What a plan holds does not name its file. */
function linesOf(error: unknown, file = ""): string[] {
  if (error instanceof PlanProblems) return error.problems.map((problem) => `${file}${formatProblem(problem)}`);
  if (error instanceof Refused) return [error.message.replaceAll("\n", " ")];
  throw error;
}

/** Says what is computed with here and would be refused by the app. */
function warn(plan: PlanBundle, file = ""): void {
  for (const problem of overfullDays(plan))
    process.stderr.write(`${file}warning: ${formatProblem(problem)}; the app does not take it in\n`);
}

/** The quality of one plan in a line: the verdict, the checks that fail, each check's value, how many each finding names. */
function qualityLine(file: string, request: Request): string {
  const plan = readPlan(join(request.file, file), request);
  warn(plan, `${file}: `);
  const { schedule, baseline } = computePlan(plan, request.options);
  const { checks, findings, verdict } = measureQuality(plan, schedule, baseline?.content ?? null);
  return JSON.stringify({
    file,
    code: plan.project.code,
    verdict: verdict.fitness,
    failed: checks.filter(({ passes }) => passes === false).map(({ check }) => check.number),
    checks: Object.fromEntries(
      checks.map(({ check: { number, rule }, value, passes }) => [number, rule === "holds" ? passes : value]),
    ),
    findings: Object.fromEntries(findings.map(({ finding: { key }, offences }) => [key, offences.length])),
    reasons: verdict.reasons.map(({ words }) => words),
  });
}

/** A folder's plans one after another; one that cannot be computed is told and does not stop the others. */
function screen(request: Request): void {
  const files = readdirSync(request.file)
    .filter((name) => name.endsWith(".json"))
    .sort();
  if (files.length === 0) throw new Refused(`${request.file}: has no .json file in it`);
  for (const file of files) {
    try {
      process.stdout.write(`${qualityLine(file, request)}\n`);
    } catch (error) {
      for (const line of linesOf(error, `${file}: `)) process.stderr.write(`${line}\n`);
      process.exitCode = 2;
    }
  }
}

const isFolder = (file: string): boolean =>
  file !== "-" && statSync(file, { throwIfNoEntry: false })?.isDirectory() === true;

try {
  const request = readArguments(process.argv.slice(2));
  if (isFolder(request.file)) screen(request);
  else {
    const plan = readPlan(request.file, request);
    process.stdout.write(`${JSON.stringify(analyse(plan, request.options))}\n`);
    warn(plan);
  }
} catch (error) {
  for (const line of linesOf(error)) process.stderr.write(`${line}\n`);
  process.exitCode = 2;
}
