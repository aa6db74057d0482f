import type { Desk, DeskNews } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { call } from "../../shared/session/api.ts";
import { countWords, dateWords, momentWords, shortDateWords } from "../../shared/words/words.ts";
import { useDeskCall, useReport } from "../useDesk.ts";

/** Something that changed, in words. */
export function newsWords({ what }: DeskNews): string {
  switch (what.kind) {
    case "new":
      return "is new for you";
    case "gone":
      return "is no longer yours, finished or parked";
    case "free":
      return "waits for nobody any more";
    case "start":
      return `starts ${dateWords(what.to)}, not ${dateWords(what.from)}`;
    case "finish":
      return `finishes ${dateWords(what.to)}, not ${dateWords(what.from)}`;
    case "hours":
      return `is planned with ${formatHours(what.to)}, not ${formatHours(what.from)}`;
    default:
      return what satisfies never;
  }
}

const NEWS_SHOWN = 8;

function News({ desk }: { desk: Desk }) {
  const seen = useDeskCall(() => call("PUT /api/desk/seen"));
  if (desk.news.length === 0 || desk.seenAt === null) return null;
  return (
    <section aria-label="What changed" className="border-l-4 border-current py-0.5 pl-3">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-base">Changed since you looked on {momentWords(desk.seenAt)}</h2>
        <button type="button" className="btn btn-xs" disabled={seen.isPending} onClick={() => seen.mutate(undefined)}>
          Seen
        </button>
      </div>
      <ul className="text-sm">
        {desk.news.slice(0, NEWS_SHOWN).map((news) => (
          <li key={`${news.project} ${news.activity} ${news.what.kind}`}>
            <span className="font-semibold">{news.name}</span> <span className="muted">{news.projectName}</span>{" "}
            {newsWords(news)}
          </li>
        ))}
        {desk.news.length > NEWS_SHOWN && (
          <li className="muted">and {countWords(desk.news.length - NEWS_SHOWN, "more", "more")}</li>
        )}
      </ul>
    </section>
  );
}

function MeetingLine({ meeting }: { meeting: Desk["meetings"][number] }) {
  const book = useReport(meeting, "Time sent");
  return (
    <li className="flex flex-wrap items-center gap-x-2">
      <span>
        {shortDateWords(meeting.date)}: <span className="font-semibold">{meeting.name}</span>{" "}
        <span className="muted">{meeting.projectName}</span>
      </span>
      <button
        type="button"
        className="btn btn-xs"
        disabled={book.isPending}
        aria-label={`Book ${formatHours(meeting.minutes)} of ${meeting.name} on ${dateWords(meeting.date)}`}
        onClick={() => book.mutate({ date: meeting.date, minutes: meeting.minutes, note: meeting.name })}
      >
        Book {formatHours(meeting.minutes)}
      </button>
      {book.error !== null && (
        <span role="alert" className="adverse">
          {book.error.message}
        </span>
      )}
    </li>
  );
}

/** What asks for a glance before work is reported: what changed, days without anything, meetings ready to book. */
export function DeskGlance({ desk, day, onDay }: { desk: Desk; day: string; onDay: (day: string) => void }) {
  return (
    <div className="flex flex-col gap-2 empty:hidden">
      <News desk={desk} />
      {desk.forgotten.length > 0 && (
        <p className="flex flex-wrap items-center gap-1.5 text-sm">
          <span className="undecided">Nothing booked on</span>
          {desk.forgotten.map((date) => (
            <button
              key={date}
              type="button"
              aria-pressed={day === date}
              className={`btn btn-xs ${day === date ? "btn-primary" : ""}`}
              onClick={() => onDay(date)}
            >
              {shortDateWords(date)}
            </button>
          ))}
        </p>
      )}
      {desk.meetings.length > 0 && (
        <section aria-label="Meetings to book">
          <ul className="flex flex-col gap-0.5 text-sm">
            {desk.meetings.map((meeting) => (
              <MeetingLine key={`${meeting.project} ${meeting.name} ${meeting.date}`} meeting={meeting} />
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
