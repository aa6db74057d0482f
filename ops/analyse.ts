/** `npm run --silent analyse -- FILE`: a plan bundle in, every figure out, as docs/plan-bundle.md says. */
import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { analyse, formatProblem, parseBundle, parseDate, PlanProblems, type AnalyseOptions, type PeriodKind } from "@chronometra/core";

const USAGE = "usage: analyse FILE [--data-date D] [--baseline N | --freeze] [--period workday|week|month]; FILE - is standard input";
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
  if (values.freeze === true && values.baseline !== undefined) throw new Refused("--freeze and --baseline: give one of them, not both");
  if (values.baseline !== undefined && !/^[1-9]\d{0,8}$/.test(values.baseline)) throw new Refused(`--baseline: "${values.baseline}" is no baseline number`);
  if (values.period !== undefined && !PERIODS.includes(values.period)) throw new Refused(`--period: "${values.period}" is none of ${PERIODS.join(", ")}`);
  const baseline = values.freeze === true ? "frozen" : values.baseline === undefined ? undefined : Number(values.baseline);
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
      options: { "data-date": { type: "string" }, baseline: { type: "string" }, freeze: { type: "boolean" }, period: { type: "string" } },
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

const isRecord = (value: unknown): value is Record<string, unknown> => typeof value === "object" && value !== null && !Array.isArray(value);

/** A data date of the call stands in place of the file's. */
function withDataDate(input: unknown, dataDate: string | undefined): unknown {
  if (dataDate === undefined || !isRecord(input) || !isRecord(input["project"])) return input;
  return { ...input, project: { ...input["project"], dataDate } };
}

function run(args: string[]): string {
  const request = readArguments(args);
  const source = readSource(request.file);
  const parsed = parseBundle(withDataDate(readJson(request.file, source), request.dataDate), { source });
  if (!parsed.ok) throw new PlanProblems(parsed.problems);
  const { baseline } = request.options;
  if (typeof baseline === "number" && !(parsed.bundle.baselines ?? []).some(({ number }) => number === baseline)) {
    throw new Refused(`--baseline: the plan has no baseline ${baseline}`);
  }
  return JSON.stringify(analyse(parsed.bundle, request.options));
}

try {
  process.stdout.write(`${run(process.argv.slice(2))}\n`);
} catch (error) {
  if (error instanceof PlanProblems) for (const problem of error.problems) process.stderr.write(`${formatProblem(problem)}\n`);
  else if (error instanceof Refused) process.stderr.write(`${error.message.replaceAll("\n", " ")}\n`);
  else throw error;
  process.exitCode = 2;
}
