import { fileURLToPath } from "node:url";
import { chromium } from "@playwright/test";
import { build, type Rollup } from "vite";
import { freezePlan, PLAN_TABLES, fromBundle } from "@chronometra/core";
import type { Line } from "./measure.ts";
import { largePlan } from "./plans.ts";

const PREVIEWS = 40;
const FRAME_MILLISECONDS = 50;

/** The plan page's engine as one script, as a worker loads it. */
async function engineScript(): Promise<string> {
  const entry = fileURLToPath(new URL("./previewWorker.ts", import.meta.url));
  const result = (await build({
    configFile: false,
    logLevel: "silent",
    resolve: { conditions: ["development"] },
    build: { write: false, minify: true, target: "es2023", lib: { entry, formats: ["iife"], name: "engine" } },
  })) as Rollup.RollupOutput[];
  return result[0]!.output[0].code;
}

/** What the page does, as text: a bundler's helpers would not be there with a function. */
const IN_PAGE = `(async () => {
  const worker = new Worker(URL.createObjectURL(new Blob([window.script], { type: "text/javascript" })));
  const ask = (message) => new Promise((resolve) => { worker.onmessage = ({ data }) => resolve(data); worker.postMessage(message); });
  await ask({ open: window.view });
  const took = [];
  for (let i = 0; i < ${PREVIEWS}; i++) {
    const from = performance.now();
    await ask({ effect: [{ type: "setDuration", activity: "a" + (2000 + i * 50), minutes: 4800 + i }] });
    took.push(performance.now() - from);
  }
  return took;
})()`;

/** The effect preview of one change, asked for from a page and worked out in its worker, in Debian's Chromium. */
export async function previewLines(): Promise<Line[]> {
  const bare = { ...largePlan({ activities: 5_000, linksEach: 2, calendars: 5, progress: 0.3 }) };
  const plan = fromBundle({
    ...bare,
    baselines: [{ number: 1, approvedOn: "2026-01-15", approvedBy: "x", reason: "y", ...freezePlan(bare) }],
  });
  const view = {
    project: plan.project,
    tables: Object.fromEntries(PLAN_TABLES.map((table) => [table, [...plan[table]]])),
  };
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium-headless-shell",
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
  });
  try {
    const page = await browser.newPage();
    await page.addScriptTag({
      content: `window.script = ${JSON.stringify(await engineScript())}; window.view = ${JSON.stringify(view)};`,
    });
    const times = (await page.evaluate(IN_PAGE)) as number[];
    const sorted = times.slice(5).sort((a, b) => a - b);
    const median = sorted[Math.floor(sorted.length / 2)]!;
    return [
      {
        what: "Effect preview of one change in the browser, 5 000 activities, asked and answered",
        measured: `median ${median.toFixed(1)} ms, least ${sorted[0]!.toFixed(1)} ms, most ${sorted.at(-1)!.toFixed(1)} ms`,
        yardstick: `${FRAME_MILLISECONDS} ms in all`,
        value: median,
        limit: FRAME_MILLISECONDS,
      },
    ];
  } finally {
    await browser.close();
  }
}
