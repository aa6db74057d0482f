import type { CalendarEntry } from "@chronometra/contract";
import { Link } from "react-router";
import { countWords, dateWords } from "../shared/words/words.ts";
import { Day } from "./Day.tsx";
import { byDay, folded, spansOf, weekNumber } from "./days.ts";
import { Entry } from "./Entry.tsx";
import { Glyph } from "./Glyph.tsx";

/** So much is told of a day; the week tells all. */
const TOLD = 6;
const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
/** Where lines begin and how far apart they are: in pixels, as what is pressed has a least size in pixels. */
const LINES_TOP = 31;
const LINE = 26;
const COLUMNS = { gridTemplateColumns: "2.5rem repeat(7, minmax(0, 1fr))" };

interface Props {
  readonly weeks: readonly (readonly string[])[];
  readonly month: string;
  readonly today: string;
  readonly entries: readonly CalendarEntry[];
  /** The address of the week of a day. */
  readonly weekOf: (day: string) => string;
}

interface WeekProps extends Omit<Props, "weeks" | "entries"> {
  readonly week: readonly string[];
  readonly spans: ReturnType<typeof spansOf>;
  readonly days: ReturnType<typeof byDay>;
}

/** As high as the room above what lasts several days. */
const NUMBER = "figure flex min-h-[27px] w-fit min-w-[24px] items-center text-sm";

/** One day of a week: its number, and what stands on it. */
function DayCell({
  day,
  month,
  today,
  days,
  weekOf,
  lines,
}: Omit<WeekProps, "week" | "spans"> & { day: string; lines: number }) {
  const on = folded(days.get(day) ?? []);
  const isOther = day.slice(0, 7) !== month;
  return (
    <Day
      day={day}
      name={dateWords(day)}
      className={`min-w-0 border-l rule px-1 pb-1 ${day === today ? "border-t-4 border-t-[var(--brass)]" : "border-t"}`}
    >
      <Link
        className={`${NUMBER} ${isOther ? "muted" : ""} ${day === today ? "font-semibold" : ""}`}
        to={weekOf(day)}
        aria-label={`The week of ${dateWords(day)}`}
      >
        {Number(day.slice(8))}
        {day === today && <span className="muted ml-1 text-xs font-normal">today</span>}
      </Link>
      <div style={{ height: lines === 0 ? 0 : lines * LINE + 4 }} aria-hidden="true" />
      <ul>
        {on.slice(0, on.length > TOLD ? TOLD - 1 : TOLD).map(({ entry, times }) => (
          <li key={entry.id}>
            {times === 1 ? (
              <Entry entry={entry} inFull={false} />
            ) : (
              <Link className="flex min-h-[24px] items-center gap-1 text-sm" to={weekOf(day)}>
                <Glyph kind={entry.kind} />
                <span className="truncate">
                  <span className="muted">{times} ×</span> {entry.name}
                </span>
              </Link>
            )}
          </li>
        ))}
      </ul>
      {on.length > TOLD && (
        <Link className="link-quiet inline-flex min-h-[24px] items-center text-xs" to={weekOf(day)}>
          and {on.length - TOLD + 1} more
        </Link>
      )}
    </Day>
  );
}

const LASTS = "pointer-events-auto mx-1 flex min-w-0 items-center gap-1 border-b border-current text-xs";

const lastingWords = ({ kind, name, project, from, to }: CalendarEntry): string =>
  kind === "leave"
    ? `${name} is away, ${dateWords(from)} to ${dateWords(to)}`
    : `Timebox ${project === null ? "" : `${project.code} `}${name}, ${dateWords(from)} to ${dateWords(to)}`;

/** What is written on a line over the days: who is away, or a timebox, which opens. */
function Lasting({ entry }: { entry: CalendarEntry }) {
  const { kind, name, project, link } = entry;
  if (kind === "leave") return <span className="truncate">{name} away</span>;
  const said = `${project === null ? "" : `${project.code} `}${name}`;
  return link === null ? (
    <span className="truncate px-1">{said}</span>
  ) : (
    <Link className="link-quiet flex min-h-[24px] min-w-0 items-center px-1" to={link} aria-label={lastingWords(entry)}>
      <span className="truncate">{said}</span>
    </Link>
  );
}

/** A week from left to right; who is away and timeboxes are drawn as lines over the days. */
function Week({ week, spans, ...rest }: WeekProps) {
  const lines = spans.reduce((most, { line }) => Math.max(most, line + 1), 0);
  return (
    <div className="relative grid min-h-20" style={COLUMNS}>
      <span className="muted border-t rule pt-1 text-xs" title={`Week ${weekNumber(week[0]!)}`}>
        {weekNumber(week[0]!)}
      </span>
      {week.map((day) => (
        <DayCell key={day} day={day} lines={lines} {...rest} />
      ))}
      {spans.length > 0 && (
        <ul
          aria-label={`Away, and timeboxes, in week ${weekNumber(week[0]!)}`}
          className="pointer-events-none absolute inset-x-0 grid"
          style={{ ...COLUMNS, top: LINES_TOP, gridAutoRows: LINE }}
        >
          {spans.map(({ entry, first, last, line }) => (
            <li
              key={entry.id}
              title={lastingWords(entry)}
              className={`${LASTS} ${entry.kind === "leave" ? "border-dashed" : "border-x"}`}
              style={{ gridColumn: `${first + 2} / ${last + 3}`, gridRow: line + 1 }}
            >
              <Lasting entry={entry} />
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

/** A month, week under week, as a page of the log is ruled. */
export function MonthSheet({ weeks, entries, ...rest }: Props) {
  const days = byDay(entries);
  return (
    <div role="region" aria-label="Month" tabIndex={0} className="overflow-x-auto">
      <div className="min-w-[46rem]">
        <div className="muted grid text-xs" style={COLUMNS} aria-hidden="true">
          <span>week</span>
          {WEEKDAYS.map((name) => (
            <span key={name} className="px-1">
              {name}
            </span>
          ))}
        </div>
        {weeks.map((week) => (
          <Week key={week[0]} week={week} spans={spansOf(week, entries)} days={days} {...rest} />
        ))}
        {entries.length === 0 && <p className="muted border-t rule py-3 text-sm">Nothing stands in these weeks.</p>}
        <p className="sr-only" role="status">
          {countWords(entries.length, "thing stands", "things stand")} in these weeks.
        </p>
      </div>
    </div>
  );
}
