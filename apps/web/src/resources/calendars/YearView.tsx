import {
  type Calendar,
  civilOf,
  closeOf,
  compileCalendars,
  type EpochDay,
  epochDay,
  formatDate,
  openOf,
  parseDate,
  weekdayOf,
} from "@chronometra/core";
import { ChevronLeft, ChevronRight } from "lucide-react";
import { useMemo, useState } from "react";
import { dateWords } from "../../shared/words/words.ts";

interface Props {
  readonly calendar: Calendar;
  /** All calendars of the plan, for those it rests on. */
  readonly all: readonly Calendar[];
  readonly from: number;
}

const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];
const FIRST_YEAR = 1990;
const LAST_YEAR = 2099;

interface Day {
  readonly day: EpochDay;
  readonly minutes: number;
  readonly label: string | null;
}

/** Minutes worked on each day of a year, and which exception says so. */
function daysOf(calendar: Calendar, all: readonly Calendar[], year: number): Day[][] | null {
  const others = all.filter(({ id }) => id !== calendar.id);
  const { set, problems } = compileCalendars([...others, calendar]);
  if (problems.some(({ row }) => row === calendar.id)) return null;
  const worked = set.get(calendar.id);
  const chain: Calendar[] = [calendar];
  for (let at = calendar.base; at !== undefined && chain.length < 20; at = chain.at(-1)!.base) {
    const base = others.find(({ id }) => id === at);
    if (base === undefined) break;
    chain.push(base);
  }
  const exceptions = chain.toReversed().flatMap((each) => each.exceptions ?? []);
  return MONTHS.map((_name, m) => {
    const days: Day[] = [];
    const first = parseDate(`${year}-${String(m + 1).padStart(2, "0")}-01`)!;
    for (let day = first; civilOf(day).month === m + 1; day = epochDay(day + 1)) {
      const date = formatDate(day);
      const exception = exceptions.findLast(({ from, to }) => from <= date && date <= to);
      days.push({
        day,
        minutes: worked.indexAt(closeOf(day)) - worked.indexAt(openOf(day)),
        label: exception === undefined ? null : (exception.label ?? "exception"),
      });
      if (date === "2099-12-31") break;
    }
    return days;
  });
}

function lookOf({ minutes, label }: Day): string {
  if (minutes === 0) return label === null ? "muted" : "bg-error/20 font-semibold";
  return label === null ? "" : "bg-accent/25 font-semibold";
}

/** A year of a calendar at a glance: what is worked, what is not, and what is an exception. */
export function YearView({ calendar, all, from }: Props) {
  const [year, setYear] = useState(from);
  const months = useMemo(() => daysOf(calendar, all, year), [calendar, all, year]);
  if (months === null) return <p className="muted">The year is shown once the calendar holds.</p>;
  return (
    <section aria-label={`The year ${year}`}>
      <div className="flex items-center gap-2">
        <button
          type="button"
          className="btn btn-ghost btn-xs btn-square"
          aria-label="The year before"
          disabled={year <= FIRST_YEAR}
          onClick={() => setYear(year - 1)}
        >
          <ChevronLeft size={14} aria-hidden="true" />
        </button>
        <h3 className="text-base">{year}</h3>
        <button
          type="button"
          className="btn btn-ghost btn-xs btn-square"
          aria-label="The year after"
          disabled={year >= LAST_YEAR}
          onClick={() => setYear(year + 1)}
        >
          <ChevronRight size={14} aria-hidden="true" />
        </button>
        <span className="text-sm">
          <span className="muted">pale: not worked by the week</span> · <span className="bg-error/20 px-1">closed</span>{" "}
          by an exception · <span className="bg-accent/25 px-1">other hours</span>
        </span>
      </div>
      <div className="mt-1 grid grid-cols-3 gap-x-5 gap-y-2 xl:grid-cols-4">
        {months.map((days, m) => (
          <table key={MONTHS[m]} aria-label={`${MONTHS[m]} ${year}`} className="text-center text-[11px]">
            <caption className="text-left text-xs font-semibold">{MONTHS[m]}</caption>
            <tbody>
              {Array.from({ length: Math.ceil((days.length + weekdayOf(days[0]!.day)) / 7) }, (_week, w) => (
                <tr key={w}>
                  {Array.from({ length: 7 }, (_day, d) => {
                    const day = days[w * 7 + d - weekdayOf(days[0]!.day)];
                    return day === undefined ? (
                      <td key={d} />
                    ) : (
                      <td
                        key={d}
                        className={`w-6 ${lookOf(day)}`}
                        title={`${dateWords(formatDate(day.day))}: ${day.minutes === 0 ? "closed" : `${day.minutes / 60} h`}${day.label === null ? "" : `, ${day.label}`}`}
                      >
                        {civilOf(day.day).day}
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </table>
        ))}
      </div>
    </section>
  );
}
