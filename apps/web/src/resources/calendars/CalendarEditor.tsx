import type { OtherProject } from "@chronometra/contract";
import { parseDuration, WEEKDAYS, type Calendar } from "@chronometra/core";
import { useState } from "react";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { Exceptions, HolidayChooser } from "./Exceptions.tsx";
import { SharedStore, type Way } from "../stored/SharedStore.tsx";
import { readShifts, shiftText } from "./shiftText.ts";
import { YearView } from "./YearView.tsx";

interface Props {
  /** How it is stored as it is drafted; with it come those it rests on. */
  readonly wayOf: (draft: Calendar, bases: readonly Calendar[]) => Way;
  readonly calendar: Calendar;
  readonly isNew: boolean;
  readonly all: readonly Calendar[];
  readonly others: readonly OtherProject[];
  readonly mayEdit: boolean;
  readonly year: number;
  readonly onDone: () => void;
}

const DAY_NAMES = {
  mon: "Monday",
  tue: "Tuesday",
  wed: "Wednesday",
  thu: "Thursday",
  fri: "Friday",
  sat: "Saturday",
  sun: "Sunday",
} as const;
const DEFAULT_DAY = 480;

/**
 * Those that a calendar rests on, which others may lack, what they rest on first; each once, also where they go round.
 */
function basesOf(calendar: Calendar, all: readonly Calendar[]): Calendar[] {
  const found: Calendar[] = [];
  for (let at = calendar.base; at !== undefined;) {
    const base = all.find(({ id }) => id === at);
    if (base === undefined || base.id === calendar.id || found.includes(base)) break;
    found.unshift(base);
    at = base.base;
  }
  return found;
}

function Week({ draft, set, disabled }: { draft: Calendar; set: (next: Calendar) => void; disabled: boolean }) {
  const { week } = draft;
  if (week === undefined)
    return (
      <p>
        Its week is that of the calendar it rests on.{" "}
        {!disabled && (
          <button
            type="button"
            className="cursor-pointer underline"
            onClick={() =>
              set({
                ...draft,
                week: Object.fromEntries(
                  WEEKDAYS.slice(0, 5).map((day) => [
                    day,
                    [
                      ["08:00", "12:00"],
                      ["13:00", "17:00"],
                    ],
                  ]),
                ),
              })
            }
          >
            Give it a week of its own
          </button>
        )}
      </p>
    );
  const commit =
    (day: (typeof WEEKDAYS)[number]) =>
    (text: string): string | null => {
      const read = readShifts(text);
      if ("fault" in read) return read.fault;
      set({ ...draft, week: { ...week, [day]: read } });
      return null;
    };
  return (
    <table className="panel-table" aria-label="Week">
      <tbody>
        {WEEKDAYS.map((day) => (
          <tr key={day}>
            <th scope="row" className="muted pr-3 text-left font-normal">
              {DAY_NAMES[day]}
            </th>
            <td className="py-0.5">
              <CommitField
                label={DAY_NAMES[day]}
                value={shiftText(week[day] ?? [])}
                width="w-60"
                disabled={disabled}
                onCommit={commit(day)}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A calendar: its week, its exceptions, and the year they make; stored here and wherever else it is used. */
export function CalendarEditor({ wayOf, calendar, isNew, all, others, mayEdit, year, onDone }: Props) {
  const [draft, setDraft] = useState(calendar);
  const changed = isNew || JSON.stringify(draft) !== JSON.stringify(calendar);
  const rename = (name: string): string | null => {
    if (name.trim() === "") return "A calendar needs a name.";
    setDraft({ ...draft, name: name.trim() });
    return null;
  };
  const day = (text: string): string | null => {
    const minutes = parseDuration(text, 1440, "hours");
    if (minutes === null || minutes < 1 || minutes > 1440) return "A day has up to 24 hours; write 8h or 7:30.";
    const { dayMinutes: _was, ...rest } = draft;
    setDraft(minutes === DEFAULT_DAY ? rest : { ...rest, dayMinutes: minutes });
    return null;
  };
  const rest = (base: string): void => {
    const { base: _was, ...own } = draft;
    setDraft(base === "" ? own : { ...own, base });
  };
  const exceptions = draft.exceptions ?? [];
  const setExceptions = (next: NonNullable<Calendar["exceptions"]>): void => {
    const { exceptions: _was, ...own } = draft;
    setDraft(next.length === 0 ? own : { ...own, exceptions: next });
  };
  return (
    <div className="grid gap-6 xl:grid-cols-[minmax(0,38rem)_minmax(0,1fr)]">
      <div className="text-[13px]">
        <div className="mb-2 flex flex-wrap items-center gap-3">
          <label className="flex items-center gap-2">
            <span className="muted">Name</span>
            <CommitField
              label="Name of the calendar"
              value={draft.name}
              width="w-48"
              disabled={!mayEdit}
              onCommit={rename}
            />
          </label>
          <label className="flex items-center gap-2">
            <span className="muted">A day is</span>
            <CommitField
              label="Hours of a day"
              value={`${(draft.dayMinutes ?? DEFAULT_DAY) / 60}h`}
              width="w-16"
              disabled={!mayEdit}
              onCommit={day}
            />
          </label>
          <label className="flex items-center gap-2">
            <span className="muted">Rests on</span>
            <select
              className="select select-xs w-44"
              disabled={!mayEdit}
              value={draft.base ?? ""}
              onChange={(event) => rest(event.target.value)}
            >
              <option value="">no other</option>
              {all
                .filter(({ id }) => id !== draft.id)
                .map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
            </select>
          </label>
        </div>
        <Week draft={draft} set={setDraft} disabled={!mayEdit} />
        <h3 className="mt-3 text-sm">Holidays, shutdowns and other exceptions</h3>
        <div className="max-h-72 overflow-auto" tabIndex={0} role="region" aria-label="Exceptions of the calendar">
          <Exceptions exceptions={exceptions} onChange={setExceptions} year={year} disabled={!mayEdit} />
        </div>
        {mayEdit && <HolidayChooser exceptions={exceptions} onChange={setExceptions} year={year} />}
        {changed && mayEdit && (
          <SharedStore
            others={others}
            way={wayOf(draft, basesOf(draft, all))}
            what={`The calendar ${draft.name}`}
            onDone={onDone}
            onLeave={() => (isNew ? onDone() : setDraft(calendar))}
          />
        )}
      </div>
      <YearView calendar={draft} all={all} from={year} />
    </div>
  );
}
