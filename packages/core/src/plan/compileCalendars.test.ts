import { compileCalendars } from "./compileCalendars.ts";
import type { Calendar } from "./schema.ts";

const calendar = (holiday: string, rest: Partial<Calendar> = {}): Calendar => ({
  id: "standard",
  name: "Standard",
  week: { mon: [["08:00", "16:00"]], tue: [["08:00", "16:00"]] },
  exceptions: [{ from: holiday, to: holiday, shifts: [] }],
  ...rest,
});
const compiled = (one: Calendar, ...bases: Calendar[]) => compileCalendars([one, ...bases]).set.get(one.id);

describe("calendars of several plans", () => {
  it("are laid out once where they say the same, whatever they are called and however they come to it", () => {
    const first = compiled(calendar("2026-05-01"));
    expect(compiled(calendar("2026-05-01", { id: "ours", name: "Ours" }))).toBe(first);
    const based: Calendar = {
      id: "site",
      name: "Site",
      base: "standard",
      exceptions: [{ from: "2026-05-01", to: "2026-05-01", shifts: [] }],
    };
    const { exceptions: _none, ...base } = calendar("2026-05-01");
    expect(compiled(based, base)).toBe(first);
  });

  it("are others where a day, a shift or the length of a day differs", () => {
    const first = compiled(calendar("2026-05-01"));
    const others = [
      compiled(calendar("2026-05-04")),
      compiled(calendar("2026-05-01", { dayMinutes: 450 })),
      compiled(calendar("2026-05-01", { week: { mon: [["08:00", "16:00"]], tue: [["08:00", "15:00"]] } })),
    ];
    expect(new Set([first, ...others]).size).toBe(4);
  });
});
