import "react-day-picker/style.css";
import { DayPicker } from "react-day-picker";
import { todayHere } from "../words/today.ts";

interface Props {
  /** `YYYY-MM-DD`, or empty. */
  readonly value: string;
  readonly max: string | undefined;
  readonly onDate: (date: string) => void;
}

const dayOf = (date: string): Date =>
  new Date(Number(date.slice(0, 4)), Number(date.slice(5, 7)) - 1, Number(date.slice(8, 10)));
const isoOf = (day: Date): string =>
  `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, "0")}-${String(day.getDate()).padStart(2, "0")}`;

/** A month to choose a day from, weeks from Monday on; arrow keys go by day and week, Page Up and Down by month. */
export default function Calendar({ value, max, onDate }: Props) {
  const today = dayOf(todayHere());
  const chosen = value === "" ? undefined : dayOf(value);
  return (
    <DayPicker
      mode="single"
      required
      autoFocus
      showOutsideDays
      showWeekNumber
      weekStartsOn={1}
      ISOWeek
      captionLayout="dropdown"
      today={today}
      startMonth={new Date(1990, 0)}
      endMonth={new Date(2099, 11)}
      defaultMonth={chosen ?? today}
      selected={chosen}
      {...(max === undefined ? {} : { disabled: { after: dayOf(max) } })}
      onSelect={(day: Date) => onDate(isoOf(day))}
    />
  );
}
