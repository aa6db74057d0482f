import type { WeekCell, WeekView } from "@chronometra/contract";

/** A date so many days on, `YYYY-MM-DD`. */
export function shiftDays(date: string, days: number): string {
  const at = new Date(`${date}T00:00:00Z`);
  at.setUTCDate(at.getUTCDate() + days);
  return at.toISOString().slice(0, 10);
}

/** Minutes booked on the week's day, waiting or accepted. */
export const bookedOn = (week: WeekView, day: number): number =>
  week.rows.reduce((sum, { cells }) => sum + cells[day]!.posted + cells[day]!.waiting, 0);

/** Minutes that stand in a cell now. */
export function cellTotal(
  week: WeekView,
  { project, activity, date }: Pick<WeekCell, "project" | "activity" | "date">,
): number {
  const cell = week.rows.find((row) => row.project === project && row.activity === activity)?.cells[
    week.days.findIndex((day) => day.date === date)
  ];
  return cell === undefined ? 0 : cell.posted + cell.waiting;
}

/** What is odd about a day, in words: nothing booked where something was expected, or much more than that. */
export function dayNote(
  { date, expectedMinutes }: WeekView["days"][number],
  booked: number,
  today: string,
): string | null {
  if (date < today && expectedMinutes > 0 && booked === 0) return "nothing booked";
  if (booked > 0 && expectedMinutes === 0) return "not a day of work";
  return booked > expectedMinutes + 240 && expectedMinutes > 0 ? "a long day" : null;
}

/** The hours of the week before, for cells of this week that are empty, open and not to come. */
export function asLastWeek(week: WeekView, last: WeekView): WeekCell[] {
  return week.rows.flatMap((row) => {
    const before = last.rows.find(({ project, activity }) => project === row.project && activity === row.activity);
    if (!row.open || before === undefined) return [];
    return week.days.flatMap(({ date }, i): WeekCell[] => {
      const minutes = before.cells[i]!.posted + before.cells[i]!.waiting;
      const taken = row.cells[i]!.posted + row.cells[i]!.waiting > 0;
      return minutes === 0 || taken || date > week.today
        ? []
        : [{ project: row.project, activity: row.activity, date, minutes }];
    });
  });
}
