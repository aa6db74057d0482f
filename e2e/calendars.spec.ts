import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import ICAL from "ical.js";
import { beside } from "./helpers.ts";

/** The last day of something that lasts whole days ends before its end (RFC 5545, 3.6.1). */
function lastDay(event: ICAL.Event): string {
  const end = event.endDate.clone();
  end.addDuration(ICAL.Duration.fromData({ isNegative: true, days: 1 }));
  return end.toString();
}

/** Days as calcurse keeps them, `12/07/2026`, as the format has them. */
const asDate = (text: string): string => text.replace(/^(\d\d)\/(\d\d)\/(\d{4})$/, "$3-$1-$2");

test("calendars are read by a calendar program as we mean them: each entry, on its days, by its name", async ({
  page,
}) => {
  const ines = await beside(page, "ines");
  const folder = mkdtempSync(join(tmpdir(), "chronometra-calendar."));
  try {
    for (const subject of ["calendar", "deadlines"]) {
      const { path } = await ines.send<{ path: string }>("post", "/api/calendars", { subject });
      const text = await (await page.request.get(path)).text();
      const data = join(folder, subject);
      writeFileSync(join(folder, "c.ics"), text);
      // It says on its error output what it cannot read, and skips that.
      const run = (...args: string[]): string =>
        execFileSync("calcurse", ["-q", "-D", data, ...args], { encoding: "utf8" });
      run("-i", join(folder, "c.ics"));
      const read = run("-G")
        .split("\n")
        .filter((line) => line !== "")
        .map((line) => {
          const [, from = "", until = from, name = ""] =
            /^(\S+) \[\d\] (?:\{1D -> (\S+)\} )?(?:>\w+ )?(.*)$/.exec(line) ?? [];
          return `${asDate(from)} to ${asDate(until)}: ${name}`;
        });
      const meant = new ICAL.Component(ICAL.parse(text) as never).getAllSubcomponents("vevent").map((component) => {
        const event = new ICAL.Event(component);
        return `${event.startDate.toString()} to ${lastDay(event)}: ${event.summary}`;
      });
      expect(meant.length).toBeGreaterThan(3);
      expect(read.sort()).toEqual(meant.sort());
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
