import { CALENDAR_KIND_WORDS, CALENDAR_KINDS, type CalendarEntry, type CalendarKind } from "@chronometra/contract";
import { MONTHS, parseDate } from "@chronometra/core";
import { keepPreviousData, queryOptions, useQuery } from "@tanstack/react-query";
import { ChevronLeft, ChevronRight } from "lucide-react";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { DateField } from "../shared/fields/DateField.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { call } from "../shared/session/api.ts";
import { mayLook, useMe } from "../shared/session/session.ts";
import { CalendarAddress } from "../watch/CalendarAddress.tsx";
import { todayHere } from "../shared/words/today.ts";
import { dateWords } from "../shared/words/words.ts";
import { Carrying } from "./Carrying.tsx";
import { extentOf, turned, weekNumber, weeksOf, type View } from "./days.ts";
import { Glyph } from "./Glyph.tsx";
import { MonthSheet } from "./MonthSheet.tsx";
import { WeekLog } from "./WeekLog.tsx";

type Put = ReturnType<typeof useAddress>[1];

const calendarQuery = (query: Record<"from" | "to" | "own" | "project", string>) =>
  queryOptions({
    queryKey: ["calendar", query],
    queryFn: ({ signal }) => call("GET /api/calendar", { query, signal }),
    placeholderData: keepPreviousData,
  });

/** What the address asks for. */
function askedIn(params: URLSearchParams) {
  const date = params.get("date") ?? "";
  const hidden = new Set((params.get("without") ?? "").split(" "));
  return {
    view: (params.get("view") === "week" ? "week" : "month") satisfies View as View,
    date: parseDate(date) === null ? todayHere() : date,
    own: params.get("own") === "1",
    project: params.get("project"),
    kinds: CALENDAR_KINDS.filter((kind) => !hidden.has(kind)),
  };
}
type Asked = ReturnType<typeof askedIn>;

const headOf = ({ view, date }: Asked, weeks: readonly string[][]): string =>
  view === "month"
    ? `${MONTHS[Number(date.slice(5, 7)) - 1]} ${date.slice(0, 4)}`
    : `Week ${weekNumber(weeks[0]![0]!)}, ${dateWords(weeks[0]![0]!)} to ${dateWords(weeks[0]![6]!)}`;

/** Which days are shown: a month or a week, before or after. */
function Days({ asked, head, put }: { asked: Asked; head: string; put: Put }) {
  const { view, date } = asked;
  const [before, after] = ([-1, 1] as const).map((by) => turned(view, date, by));
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
      <button
        type="button"
        className="btn btn-ghost btn-sm px-1"
        aria-label={`The ${view} before`}
        disabled={before == null}
        onClick={() => put({ date: before! }, "push")}
      >
        <ChevronLeft size={16} aria-hidden="true" />
      </button>
      <h2 className="min-w-36 text-center text-base" aria-live="polite">
        {head}
      </h2>
      <button
        type="button"
        className="btn btn-ghost btn-sm px-1"
        aria-label={`The ${view} after`}
        disabled={after == null}
        onClick={() => put({ date: after! }, "push")}
      >
        <ChevronRight size={16} aria-hidden="true" />
      </button>
      <button type="button" className="btn btn-ghost btn-sm" onClick={() => put({ date: null }, "push")}>
        Today
      </button>
      <DateField label="Go to a day" value={date} small onDate={(day) => put({ date: day }, "push")} />
      <span className="ml-2 flex gap-3 text-sm" role="radiogroup" aria-label="Shown">
        {(["month", "week"] as const).map((each) => (
          <label key={each} className="flex min-h-[24px] items-center gap-1.5">
            <input
              type="radio"
              name="view"
              className="radio radio-xs"
              checked={view === each}
              onChange={() => put({ view: each === "month" ? null : each }, "push")}
            />
            {each}
          </label>
        ))}
      </span>
    </div>
  );
}

/** What is shown, which is what the marks mean too. */
function Kinds({ asked: { kinds, own, project }, code, put }: { asked: Asked; code: string | null; put: Put }) {
  const looks = mayLook(useMe());
  const toggle = (kind: CalendarKind, on: boolean): void => {
    const shown = on ? [...kinds, kind] : kinds.filter((each) => each !== kind);
    put({ without: CALENDAR_KINDS.filter((each) => !shown.includes(each)).join(" ") });
  };
  return (
    <div className="flex flex-wrap items-center gap-x-4 text-sm">
      {CALENDAR_KINDS.map((kind) => (
        <label key={kind} className="flex min-h-[24px] items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={kinds.includes(kind)}
            onChange={(event) => toggle(kind, event.target.checked)}
          />
          <Glyph kind={kind} />
          {CALENDAR_KIND_WORDS[kind][1]}
        </label>
      ))}
      {looks && (
        <label className="flex min-h-[24px] items-center gap-1.5 border-l rule pl-4">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={own}
            onChange={(event) => put({ own: event.target.checked ? "1" : null })}
          />
          my own only
        </label>
      )}
      {project !== null && (
        <button type="button" className="btn btn-xs" onClick={() => put({ project: null })}>
          Of {code ?? "one project"} only ×
        </button>
      )}
    </div>
  );
}

const codeIn = (entries: readonly CalendarEntry[]): string | null =>
  entries.find(({ project }) => project !== null)?.project?.code ?? null;

/** Milestones, deadlines, gates, meetings and absences on their days. */
export function CalendarPage() {
  const [params, put] = useAddress();
  const asked = askedIn(params);
  const weeks = weeksOf(asked.view, asked.date);
  const query = useQuery(
    calendarQuery({ ...extentOf(weeks), own: asked.own ? "1" : "", project: asked.project ?? "" }),
  );
  const today = todayHere();
  const weekOf = (day: string): string => {
    const next = new URLSearchParams(params);
    next.set("view", "week");
    next.set("date", day);
    return `?${next.toString()}`;
  };
  return (
    <div className="page">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 pb-1">
        <h1 className="text-xl">Calendar</h1>
        <Days asked={asked} head={headOf(asked, weeks)} put={put} />
        <CalendarAddress
          key={asked.own ? "own" : "all"}
          subject={asked.own ? "own-calendar" : "calendar"}
          words={`${asked.own ? "your own days" : "all that you see here"}, for a year to come`}
        />
      </div>
      <div className="pb-3">
        <Kinds asked={asked} code={codeIn(query.data?.entries ?? [])} put={put} />
      </div>
      <Loaded query={query}>
        {({ entries, total }) => {
          const shown = entries.filter(({ kind }) => asked.kinds.includes(kind));
          return (
            <Carrying dayUnderDay={asked.view === "week"}>
              <div aria-busy={query.isPlaceholderData}>
                {asked.view === "week" ? (
                  <WeekLog week={weeks[0]!} today={today} entries={shown} />
                ) : (
                  <MonthSheet
                    weeks={weeks}
                    month={asked.date.slice(0, 7)}
                    today={today}
                    entries={shown}
                    weekOf={weekOf}
                  />
                )}
              </div>
              {total > entries.length && (
                <p className="muted pt-2 text-sm">
                  The first {entries.length} of {total} are shown; look at one week, or at your own only.
                </p>
              )}
            </Carrying>
          );
        }}
      </Loaded>
    </div>
  );
}
