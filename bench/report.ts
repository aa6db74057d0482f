import { readFileSync } from "node:fs";
import type { ReportContent } from "@chronometra/contract";
import { reportPdf } from "../apps/server/dist/report/paper/reportPdf.js";
import { limitLine, type Line } from "./measure.ts";

const PROJECTS = 40;
const LIMIT_MILLISECONDS = 30_000;

/** The reports of many projects in one document on paper. */
export async function reportLines(): Promise<Line[]> {
  const kept = new URL("../apps/server/src/report/fixtures/report-format-1.json", import.meta.url);
  const one = JSON.parse(readFileSync(kept, "utf8")) as ReportContent;
  const parts = Array.from({ length: PROJECTS }, (_, n) =>
    one.parts.map((part, i) => ({ ...part, id: `P${n}-${part.id}`, level: i === 0 ? 1 : 2 })),
  ).flat();
  const front = one.parts.slice(0, 3);
  const content: ReportContent = { ...one, of: "group", parts: [...front, ...parts] };
  const from = performance.now();
  await reportPdf(content, "A4", "edition 1");
  return [limitLine(`A report of ${PROJECTS} projects as PDF`, performance.now() - from, LIMIT_MILLISECONDS)];
}
