/**
 * `npm run bench`: each speed promise beside its yardstick, measured in the same run. A name narrows it: network,
 * analysis, quality, preview, saving, scrolling, pasting, calendar, boards, drift, chances, portfolio, people, report.
 */
import "reflect-metadata";
import { analysisLines } from "./analysis.ts";
import { printLine, type Line } from "./measure.ts";
import { boardsLines } from "./boards.ts";
import { calendarLines } from "./calendar.ts";
import { chancesLines } from "./chances.ts";
import { driftLines } from "./drift.ts";
import { peopleLines } from "./people.ts";
import { changedDatesLines, networkLines } from "./network.ts";
import { pastingLines } from "./pasting.ts";
import { portfolioLines } from "./portfolio.ts";
import { previewLines } from "./preview.ts";
import { qualityLines } from "./quality.ts";
import { manyLines, savingLines } from "./saving.ts";
import { reportLines } from "./report.ts";
import { scrollingLines } from "./scrolling.ts";

const only = process.argv[2];
const database = process.env["CHRONOMETRA_BENCH_DATABASE"];
const parts: Record<string, () => Promise<Line[]>> = {
  network: async () => [...(await networkLines()), ...changedDatesLines()],
  analysis: analysisLines,
  quality: qualityLines,
  preview: previewLines,
  saving: async () => [...(await savingLines(database!)), ...(await manyLines(database!))],
  scrolling: () => scrollingLines(database!),
  pasting: () => pastingLines(database!),
  calendar: () => calendarLines(database!),
  boards: () => boardsLines(database!),
  drift: driftLines,
  chances: chancesLines,
  portfolio: () => portfolioLines(database!),
  people: () => peopleLines(database!),
  report: reportLines,
};

if (only !== undefined && !(only in parts)) {
  process.stderr.write(`There is no "${only}"; measured can be: ${Object.keys(parts).join(", ")}.\n`);
  process.exit(2);
}

let over = 0;
for (const [name, measure] of Object.entries(parts)) {
  if (only !== undefined && only !== name) continue;
  for (const line of await measure()) {
    printLine(line);
    if (line.value > line.limit) over++;
  }
}
process.stdout.write(over === 0 ? "All within.\n" : `${over} over.\n`);
process.exit(0);
