import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

const ROOT = join(__dirname, "..");
const WORKED = join(ROOT, "packages/core/fixtures/worked");
const PLAN = join(WORKED, "09-earned-value/bundle.json");

interface Ran {
  readonly code: number | null;
  readonly out: string;
  readonly err: string;
}

/** What anyone would type, and what that runs, which is there sooner. */
const NPM = ["npm", "run", "--silent", "analyse", "--"];
const NODE = [process.execPath, "--conditions=development", "--import", "tsx", "ops/analyse.ts"];

/** Runs the command. */
function analyse(args: string[], input?: string, [command, ...before] = NODE): Ran {
  const run = spawnSync(command!, [...before, ...args], {
    cwd: ROOT,
    encoding: "utf8",
    ...(input === undefined ? {} : { input }),
  });
  const err = run.stderr
    .split("\n")
    .filter((line) => line !== "" && !line.startsWith("npm warn"))
    .join("\n");
  return { code: run.status, out: run.stdout, err };
}

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "analyse-"));
});
afterAll(() => rmSync(folder, { recursive: true }));

const file = (content: string): string => {
  const path = join(folder, `${Math.random()}.json`);
  writeFileSync(path, content);
  return path;
};

describe("npm run --silent analyse", () => {
  it("prints one JSON object and exits 0, from a file and from standard input alike", () => {
    const fromFile = analyse([PLAN], undefined, NPM);
    const fromInput = analyse(["-"], readFileSync(PLAN, "utf8"), NPM);
    expect([fromFile.code, fromFile.err]).toEqual([0, ""]);
    expect(JSON.parse(fromFile.out)).toMatchObject({
      performance: { project: { bac: 200_000, cpi: 0.8 } },
      quality: { checks: expect.any(Array) },
    });
    expect(fromInput).toEqual(fromFile);
  });

  it("a byte order mark before the JSON does no harm", () => {
    expect(analyse(["-"], `\uFEFF${readFileSync(PLAN, "utf8")}`).code).toBe(0);
  });

  it("warns of more than 24 hours of a person on a day, and computes all the same", () => {
    const plan = JSON.parse(readFileSync(PLAN, "utf8")) as {
      activities: { id: string; kind?: string }[];
      people?: { id: string; name: string }[];
    };
    const entry = {
      activity: plan.activities.find(({ kind }) => kind !== "summary")!.id,
      person: "tired",
      date: "2026-03-03",
      minutes: 900,
      state: "submitted",
    };
    const { code, out, err } = analyse(
      ["-"],
      JSON.stringify({
        ...plan,
        people: [...(plan.people ?? []), { id: "tired", name: "Tired" }],
        timeEntries: [entry, entry, entry, { ...entry, date: "2026-03-04" }],
      }),
    );
    expect([code, err]).toEqual([
      0,
      `warning: timeEntries ${entry.activity} / tired minutes: tired has more than 24 hours booked on 2026-03-03; the app does not take it in`,
    ]);
    expect(JSON.parse(out)).toHaveProperty("schedule");
  });

  it("another data date, another baseline, the plan itself as one, another period", () => {
    expect(JSON.parse(analyse([PLAN, "--data-date", "2026-03-20"]).out).performance.asOf).toBe("2026-03-20");
    expect(JSON.parse(analyse([PLAN, "--freeze", "--period", "week"]).out).performance).toMatchObject({
      baseline: "frozen",
      earnedSchedule: { period: "week" },
    });
    expect(JSON.parse(analyse([PLAN, "--baseline", "1"]).out).performance.baseline).toBe(1);
  });

  it("a folder gives a line of quality figures a file; a file that cannot be read is told and stops nothing", () => {
    const plans = mkdtempSync(join(folder, "plans-"));
    writeFileSync(join(plans, "b.json"), readFileSync(PLAN));
    writeFileSync(join(plans, "a.json"), "{");
    writeFileSync(
      join(plans, "c.json"),
      JSON.stringify({ ...(JSON.parse(readFileSync(PLAN, "utf8")) as object), links: [{ from: "A", to: "nobody" }] }),
    );
    writeFileSync(join(plans, "notes.txt"), "not a plan");
    const { code, out, err } = analyse([plans]);
    expect(
      out
        .trimEnd()
        .split("\n")
        .map((line) => JSON.parse(line)),
    ).toEqual([
      expect.objectContaining({
        file: "b.json",
        code: "CASE",
        verdict: "unfit",
        failed: [7, 13],
        checks: expect.objectContaining({ 11: 0, 12: true, 13: 0.8, 14: 1 }),
        reasons: ["Negative float: 1 of 2 (50%), none allowed", "Critical path length index: 0.8, at least 0.95"],
      }),
    ]);
    expect([code, err]).toEqual([2, expect.stringMatching(/a\.json: is not JSON[^]*\nc\.json: .*nobody/)]);
    const empty = mkdtempSync(join(folder, "empty-"));
    expect(analyse([empty])).toEqual({ code: 2, out: "", err: `${empty}: has no .json file in it` });
  });

  it.each<[string, string[], RegExp]>([
    ["no file", [], /expected one FILE/],
    ["two files", [PLAN, PLAN], /expected one FILE/],
    ["a file that is not there", ["/nowhere/plan.json"], /cannot be read/],
    ["an unknown flag", [PLAN, "--fast"], /--fast/],
    ["a data date that is none", [PLAN, "--data-date", "2026-02-30"], /--data-date: "2026-02-30" is no date/],
    ["a baseline that is none", [PLAN, "--baseline", "x"], /--baseline: "x" is no baseline number/],
    ["a baseline the plan has not", [PLAN, "--baseline", "9"], /no baseline 9/],
    ["a period that is none", [PLAN, "--period", "day"], /--period: "day" is none of/],
    ["freeze and baseline together", [PLAN, "--freeze", "--baseline", "1"], /not both/],
  ])("%s exits 2 with one line on standard error", (_what, args, words) => {
    const ran = analyse(args);
    expect([ran.code, ran.out, ran.err.split("\n").length]).toEqual([2, "", 1]);
    expect(ran.err).toMatch(words);
  });

  it("what cannot be computed exits 2 with a line for each problem, naming table, row and field", () => {
    const bundle = JSON.parse(readFileSync(join(WORKED, "01-textbook/bundle.json"), "utf8"));
    bundle.activities[0].durationMinutes = -5;
    bundle.links[0].to = "ghost";
    bundle.project.extra = 1;
    const shape = analyse([file(JSON.stringify(bundle))]);
    expect([shape.code, shape.out]).toEqual([2, ""]);
    expect(shape.err.split("\n").sort()).toEqual([
      expect.stringMatching(/^activities A durationMinutes: /),
      expect.stringMatching(/^project extra: /),
    ]);
    delete bundle.project.extra;
    bundle.activities[0].durationMinutes = 480;
    expect(analyse([file(JSON.stringify(bundle))]).err).toMatch(
      /^links \S+ -> ghost to: there is no activity "ghost"$/,
    );
    expect(analyse([file("{ no json")]).err).toMatch(/is not JSON/);
  });

  it("a loop is told with the activities on it, in order", () => {
    const bundle = JSON.parse(readFileSync(join(WORKED, "01-textbook/bundle.json"), "utf8"));
    bundle.links.push({ from: "H", to: "A" });
    const ran = analyse([file(JSON.stringify(bundle))]);
    expect([ran.code, ran.out]).toEqual([2, ""]);
    expect(ran.err).toMatch(/^links .* to: the links form a loop: .*A -> .*; take one of them out$/);
  });
});
