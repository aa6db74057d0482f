import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { fromBundle, linkReader, workReader, type PlanBundle } from "@chronometra/core";
import { EXCHANGE_HINT, readRate } from "../access/ExchangeRates.tsx";
import { readTime, TIME_HINT } from "../collect/readTime.ts";
import { COST_HINT, readCost } from "../plan/panel/work/WorkCosts.tsx";
import { WORK_HINT } from "../plan/panel/work/WorkPeople.tsx";
import { LINK_HINT } from "../plan/panel/WhyTab.tsx";
import { EXCEPTION_HINT, LEAVE_HINT, readException } from "../resources/calendars/Exceptions.tsx";
import { FIELD_HINT, readField } from "../resources/OwnFieldsPart.tsx";
import { RATE_HINT, readPersonRate } from "../resources/Rates.tsx";

const DAY: [string, string][] = [["08:00", "16:00"]];
const PLAN: PlanBundle = {
  format: "chronometra-plan",
  version: 1,
  project: { code: "P", name: "P", currency: "EUR", start: "2026-03-02", calendar: "std" },
  calendars: [{ id: "std", name: "Std", week: { mon: DAY } }],
  people: [{ id: "name", name: "Name" }],
  activities: [
    { id: "a", name: "a name", durationMinutes: 480 },
    { id: "b", name: "b", durationMinutes: 480 },
  ],
};

describe("what an empty field shows as an example", () => {
  it("can be typed as it stands", () => {
    expect(readTime(TIME_HINT)).toEqual({ minutes: 90, note: "a note" });
    expect(readRate(EXCHANGE_HINT, { currency: "EUR" }, "2026")).toMatchObject({ currency: "JPY" });
    expect(readField(FIELD_HINT)).toEqual({ name: "Zone", choices: ["North", "South"] });
    for (const hint of [LEAVE_HINT, EXCEPTION_HINT])
      expect(readException(hint, "2026")).toMatchObject({ from: expect.any(String), label: expect.any(String) });
    expect(readPersonRate(RATE_HINT, 2, false, "2026")).toEqual({ from: "2027-01-01", perHourMinor: 6450 });
    expect(readCost(COST_HINT, 2)).toEqual({ category: "Crane hire", plannedMinor: 120_000 });
    const plan = fromBundle(PLAN);
    expect(workReader(plan, String)("b", WORK_HINT)).toMatchObject({
      changes: [{ type: "addRow", row: { person: "name", plannedMinutes: 960, unitsPercent: 50 } }],
    });
    expect(linkReader(plan, String)("b", LINK_HINT)).toMatchObject({
      changes: [{ type: "addRow", row: { from: "a", to: "b", lagMinutes: 960 } }],
    });
  });

  it("is one of these: no other field shows an example with figures that nobody has tried", () => {
    const files = (folder: string): string[] =>
      readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
        entry.isDirectory()
          ? files(join(folder, entry.name))
          : entry.name.endsWith(".tsx")
            ? [join(folder, entry.name)]
            : [],
      );
    const untried = files(join(__dirname, "..")).flatMap((file) =>
      [...readFileSync(file, "utf8").matchAll(/placeholder="([^"]*\d[^"]*)"/g)].map(([, text]) => text),
    );
    // Words about something, not an entry.
    expect(untried.filter((text) => !text!.startsWith("such as "))).toEqual([]);
  });
});
