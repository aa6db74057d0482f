import type { Calendar } from "@chronometra/core";

type Exception = NonNullable<Calendar["exceptions"]>[number];

interface Holiday {
  readonly from: string;
  readonly to: string;
  readonly name: string;
}

const meets = (a: { from: string; to: string }, b: { from: string; to: string }): boolean =>
  a.from <= b.to && b.from <= a.to;

/**
 * Public holidays beside what someone has said of a calendar's days already. What was said stands: of two exceptions of
 * one day the later in the list holds, so holidays come before.
 * @returns `kept`: holidays on which something is worked because someone said so
 */
export function withHolidays(
  exceptions: readonly Exception[],
  holidays: readonly Holiday[],
): { exceptions: Exception[]; added: number; kept: Holiday[] } {
  const fresh = holidays.filter(
    (day) => !exceptions.some((each) => each.from <= day.from && day.to <= each.to && each.shifts.length === 0),
  );
  const kept = fresh.filter((day) => exceptions.some((each) => each.shifts.length > 0 && meets(each, day)));
  return {
    exceptions: [
      ...fresh.map(({ from, to, name }): Exception => ({ from, to, shifts: [], label: name })),
      ...exceptions,
    ],
    added: fresh.length,
    kept,
  };
}
