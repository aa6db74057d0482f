import fc from "fast-check";
import { USUALLY } from "./notices.ts";
import { mailMoment, type Wishes } from "./whenTold.ts";

const TEN_MINUTES = 600_000;
const wishes = (over: Partial<Wishes> = {}): Wishes => ({ ...USUALLY, timeZone: "UTC", lastMail: null, ...over });
const moment = (way: Parameters<typeof mailMoment>[0], at: string, over: Partial<Wishes> = {}): string | null =>
  mailMoment(way, wishes(over), new Date(at), TEN_MINUTES)?.toISOString() ?? null;
const NIGHT = { from: "20:00", until: "06:30" };

describe("mail leaves", () => {
  it("at once, never, or with what else happened within ten minutes of the last", () => {
    expect(moment("once", "2026-03-02T10:00:00Z")).toBe("2026-03-02T10:00:00.000Z");
    expect(moment("never", "2026-03-02T10:00:00Z")).toBeNull();
    const lastMail = new Date("2026-03-02T09:56:00Z");
    expect(moment("once", "2026-03-02T10:00:00Z", { lastMail })).toBe("2026-03-02T10:06:00.000Z");
    expect(moment("once", "2026-03-02T10:06:00Z", { lastMail })).toBe("2026-03-02T10:06:00.000Z");
  });

  it("with the day's or the week's at an hour of where someone is, on the days on which clocks change too", () => {
    expect(moment("day", "2026-03-02T06:59:00Z")).toBe("2026-03-02T07:00:00.000Z");
    expect(moment("day", "2026-03-02T07:00:00Z")).toBe("2026-03-03T07:00:00.000Z");
    // Lisbon goes to summer time on 29 March 2026: 07:00 is 06:00Z from then on.
    expect(moment("day", "2026-03-28T12:00:00Z", { timeZone: "Europe/Lisbon" })).toBe("2026-03-29T06:00:00.000Z");
    // Monday 2 March 2026 in Auckland begins while it is Sunday at the server.
    const auckland = { timeZone: "Pacific/Auckland", weekday: 1 };
    expect(moment("week", "2026-03-01T12:00:00Z", auckland)).toBe("2026-03-01T18:00:00.000Z");
    expect(moment("week", "2026-03-01T18:00:00Z", auckland)).toBe("2026-03-08T18:00:00.000Z");
  });

  it("after the quiet hours, over midnight or within a day", () => {
    expect(moment("once", "2026-03-02T19:59:00Z", { quiet: NIGHT })).toBe("2026-03-02T19:59:00.000Z");
    expect(moment("once", "2026-03-02T23:00:00Z", { quiet: NIGHT })).toBe("2026-03-03T06:30:00.000Z");
    expect(moment("once", "2026-03-03T03:00:00Z", { quiet: NIGHT })).toBe("2026-03-03T06:30:00.000Z");
    expect(moment("day", "2026-03-02T10:00:00Z", { quiet: NIGHT, at: "05:00" })).toBe("2026-03-03T06:30:00.000Z");
    expect(moment("once", "2026-03-02T12:30:00Z", { quiet: { from: "12:00", until: "13:00" } })).toBe(
      "2026-03-02T13:00:00.000Z",
    );
  });

  it("never before it happened, never in quiet hours, and never over eight days later", () => {
    const times = fc.tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }));
    const said = times.map(([hour, minute]) => `${String(hour).padStart(2, "0")}:${String(minute).padStart(2, "0")}`);
    fc.assert(
      fc.property(
        fc.date({ min: new Date("2026-01-01"), max: new Date("2027-01-01"), noInvalidDate: true }),
        fc.record({ from: said, until: said }),
        said,
        fc.integer({ min: 1, max: 7 }),
        fc.constantFrom("once", "day", "week"),
        fc.constantFrom("UTC", "Asia/Kolkata", "Asia/Tokyo"),
        (at, quiet, hour, weekday, way, timeZone) => {
          const then = mailMoment(way as "once", wishes({ quiet, at: hour, weekday, timeZone }), at, TEN_MINUTES)!;
          expect(then.getTime()).toBeGreaterThanOrEqual(at.getTime());
          expect(then.getTime() - at.getTime()).toBeLessThanOrEqual(8 * 86_400_000);
          const clock = new Intl.DateTimeFormat("en-GB", { timeZone, hour: "2-digit", minute: "2-digit" }).format(then);
          const { from, until } = quiet;
          const isQuiet =
            from < until ? clock >= from && clock < until : from > until && (clock >= from || clock < until);
          expect(isQuiet).toBe(false);
        },
      ),
    );
  });
});
