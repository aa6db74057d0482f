import type { CalendarEntry } from "@chronometra/contract";
import { dateWords } from "../shared/words/words.ts";
import { Day } from "./Day.tsx";
import { byDay } from "./days.ts";
import { Entry } from "./Entry.tsx";

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

interface Props {
  readonly week: readonly string[];
  readonly today: string;
  readonly entries: readonly CalendarEntry[];
}

/** A week, day under day, with all that stands on each in full. */
export function WeekLog({ week, today, entries }: Props) {
  const days = byDay(entries);
  return (
    <div role="region" aria-label="Week" tabIndex={0}>
      {week.map((day, i) => {
        const on = days.get(day) ?? [];
        const lasting = entries.filter(({ from, to }) => from <= day && to >= day);
        const away = lasting.filter(({ kind }) => kind === "leave");
        const boxes = lasting.filter(({ kind }) => kind === "timebox");
        return (
          <Day
            key={day}
            day={day}
            name={dateWords(day)}
            className={`grid grid-cols-[9rem_1fr] gap-x-4 border-b rule py-1 max-sm:grid-cols-1 ${day === today ? "border-l-4 border-l-[var(--brass)] pl-2" : "pl-3"}`}
            style={{ contentVisibility: "auto", containIntrinsicSize: `auto ${Math.max(2, on.length) * 24}px` }}
          >
            <p className="pt-0.5 text-sm">
              <span className="block font-semibold">{WEEKDAYS[i]}</span>
              <span className="muted">
                {dateWords(day)}
                {day === today && ", today"}
              </span>
            </p>
            <div className="min-w-0">
              {away.length > 0 && (
                <p className="muted min-h-[24px] pt-0.5 text-sm">Away: {away.map(({ name }) => name).join(", ")}</p>
              )}
              <ul>
                {[...boxes, ...on].map((entry) => (
                  <li key={entry.id}>
                    <Entry entry={entry} inFull />
                  </li>
                ))}
              </ul>
              {on.length + away.length + boxes.length === 0 && <p className="muted pt-0.5 text-sm">–</p>}
            </div>
          </Day>
        );
      })}
    </div>
  );
}
