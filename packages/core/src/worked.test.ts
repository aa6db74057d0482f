import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { analyse } from "./analyse.ts";
import type { PeriodKind } from "./performance/earnedSchedule.ts";
import { parseBundle } from "./plan/check/parseBundle.ts";

// Plans worked out by hand; the why.md beside each says how every value comes about.
const FOLDER = join(__dirname, "../fixtures/worked");

interface Run {
  flags: string[];
  bundle?: string;
  expect: Record<string, unknown>;
}

function printed(folder: string, run: Run): unknown {
  const input = JSON.parse(readFileSync(join(FOLDER, folder, run.bundle ?? "bundle.json"), "utf8")) as {
    project: object;
  };
  const flag = (name: string): string | undefined =>
    run.flags.includes(name) ? run.flags[run.flags.indexOf(name) + 1] : undefined;
  const dataDate = flag("--data-date");
  if (dataDate !== undefined) input.project = { ...input.project, dataDate };
  const parsed = parseBundle(input);
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
  const period = flag("--period") as PeriodKind | undefined;
  return JSON.parse(
    JSON.stringify(
      analyse(parsed.bundle, {
        ...(period && { period }),
        ...(run.flags.includes("--freeze") && { baseline: "frozen" as const }),
      }),
    ),
  );
}

const at = (root: unknown, path: string): unknown =>
  path.split(".").reduce<unknown>((value, key) => (value as Record<string, unknown> | undefined)?.[key], root);

describe("plans worked out by hand", () => {
  for (const folder of readdirSync(FOLDER)) {
    const { runs } = JSON.parse(readFileSync(join(FOLDER, folder, "expected.json"), "utf8")) as { runs: Run[] };
    runs.forEach((run, i) => {
      it(`${folder}, run ${i + 1}`, () => {
        const result = printed(folder, run);
        for (const [path, wanted] of Object.entries(run.expect)) {
          // `checks[11]` is the check whose number is 11.
          const value = at(
            result,
            path.replace(/^quality\.checks\[(\d+)\]/, (_, number) => `quality.checks.${Number(number) - 1}`),
          );
          const isRatio =
            typeof wanted === "number" &&
            wanted !== 0 &&
            (!Number.isInteger(wanted) || path.includes("earnedSchedule"));
          if (isRatio) expect([path, Math.abs((value as number) / wanted - 1) <= 1e-9]).toEqual([path, true]);
          else if (wanted === "(absent)") expect([path, value]).toEqual([path, undefined]);
          else if (typeof wanted === "object" && wanted !== null && !Array.isArray(wanted))
            expect([path, value]).toEqual([path, expect.objectContaining(wanted)]);
          else expect([path, value]).toEqual([path, wanted]);
        }
      });
    });
  }
});
