import type { DeskActivity } from "@chronometra/contract";
import { formatHours, parseDuration } from "@chronometra/core";
import { OctagonMinus, Timer } from "lucide-react";
import { useState } from "react";
import { call } from "../../shared/session/api.ts";
import { placeOnDesk } from "../../shared/page/placeOnDesk.ts";
import { dateWords, shortDateWords } from "../../shared/words/words.ts";
import { DeskNotes } from "./DeskNotes.tsx";
import { ProgressPart, type Said } from "./ProgressPart.tsx";
import { readTime, TIME_HINT } from "../readTime.ts";
import { SendField, type Wrong } from "./SendField.tsx";
import { useDeskCall, useReport } from "../useDesk.ts";
import { TalkButton } from "../../talk/TalkButton.tsx";
import { RaiseIssue } from "../../matters/RaiseIssue.tsx";

interface Props {
  readonly activity: DeskActivity;
  /** The day that time is booked on, `YYYY-MM-DD`. */
  readonly day: string;
  /** Whether a clock runs, on this activity or another. */
  readonly clock: "none" | "here" | "elsewhere";
  /** What was last said of it, accepted or not. */
  readonly said: Said;
  readonly card: boolean;
}

/** In which timebox it stands. */
const InBox = ({ activity: { box } }: { activity: DeskActivity }) =>
  box === null ? null : (
    <p className="muted text-sm">
      {box.name}, until {dateWords(box.last)}
    </p>
  );

function Facts({ activity }: { activity: DeskActivity }) {
  const { start, finish, state, percent, remainingMinutes, plannedMinutes, postedMinutes, waitingMinutes } = activity;
  return (
    <p className="text-sm">
      {state === "notStarted" ? `starts ${shortDateWords(start)}, ` : ""}finishes {dateWords(finish)}
      {percent !== null && ` · ${percent}% done`}
      {plannedMinutes > 0 && ` · ${formatHours(remainingMinutes)} remaining of ${formatHours(plannedMinutes)}`}
      {postedMinutes > 0 && ` · ${formatHours(postedMinutes)} booked`}
      {waitingMinutes > 0 && <span className="undecided"> · {formatHours(waitingMinutes)} waiting to be accepted</span>}
    </p>
  );
}

/** That an activity is blocked, and by what; or the field to say so. */
function Blocked({ activity, open }: { activity: DeskActivity; open: boolean }) {
  const { project, activity: id, name, blocked } = activity;
  const mark = useDeskCall((by: string | null) => call("PUT /api/desk/block", { body: { project, activity: id, by } }));
  if (blocked !== null) {
    return (
      <p className="adverse flex items-center gap-1.5 text-sm">
        <OctagonMinus size={14} aria-hidden="true" /> blocked by {blocked.by}{" "}
        <span className="muted">
          since {shortDateWords(blocked.since)}, says {blocked.saidBy}
        </span>
        <button
          type="button"
          className="btn btn-xs"
          disabled={mark.isPending}
          aria-label={`No longer blocked: ${name}`}
          onClick={() => mark.mutate(null)}
        >
          No longer
        </button>
      </p>
    );
  }
  if (!open) return null;
  return (
    <SendField
      label={`What blocks ${name}`}
      placeholder="blocked by …"
      width="w-52"
      action="Save"
      pending={mark.isPending}
      failure={null}
      onSend={(text, clear) => {
        mark.mutate(text, { onSuccess: clear });
        return null;
      }}
    />
  );
}

/** Fields that are asked for less often: hours left, percent to the point, and what is in the way. */
function More({ activity, day }: { activity: DeskActivity; day: string }) {
  const percent = useReport(activity, "Percent sent");
  const left = useReport(activity, "Remaining hours sent");
  const sendPercent = (text: string, clear: () => void): string | null => {
    const value = Number(text.replace("%", "").replace(",", ".").trim());
    if (!Number.isFinite(value) || value < 0 || value > 100) return "Percent lies between 0 and 100.";
    percent.mutate({ date: day, percent: value }, { onSuccess: clear });
    return null;
  };
  const sendLeft = (text: string, clear: () => void): string | null => {
    const minutes = parseDuration(text, 480, "hours");
    if (minutes === null) return "Write the remaining hours, as 12h or 1.5d.";
    left.mutate({ date: day, remainingMinutes: minutes }, { onSuccess: clear });
    return null;
  };
  return (
    <div className="flex flex-wrap gap-2">
      <SendField
        label={`Remaining hours on ${activity.name}`}
        placeholder="h remaining"
        width="w-20"
        action="Set"
        pending={left.isPending}
        failure={left.error?.message ?? null}
        onSend={sendLeft}
      />
      <SendField
        label={`Percent done of ${activity.name}, to the point`}
        placeholder="% done"
        width="w-20"
        action="Set"
        pending={percent.isPending}
        failure={percent.error?.message ?? null}
        onSend={sendPercent}
      />
      <RaiseIssue project={activity.project} activity={activity.activity} of={activity.name} />
    </div>
  );
}

/** One of a contributor's own activities: what it is, when it is due, and what it takes to report on it. */
export function DeskCard({ activity, day, clock, said, card }: Props) {
  const [more, setMore] = useState(false);
  const time = useReport(activity, "Time sent");
  const start = useDeskCall(() =>
    call("PUT /api/desk/clock", { body: { project: activity.project, activity: activity.activity } }),
  );
  const sendTime = (text: string, clear: () => void): Wrong | null => {
    const read = readTime(text);
    if ("fault" in read) return read;
    time.mutate(
      { date: day, minutes: read.minutes, ...(read.note === "" ? {} : { note: read.note }) },
      { onSuccess: clear },
    );
    return null;
  };
  return (
    <li
      id={placeOnDesk(activity.project, activity.activity)}
      tabIndex={-1}
      className={
        card
          ? "flex flex-col gap-1.5 border rule bg-base-100 px-3 py-2"
          : "grid gap-x-6 gap-y-1 border-b rule py-2 md:grid-cols-[1fr_auto] md:items-start"
      }
    >
      <div className="min-w-0 grow">
        <h3 className="truncate font-sans text-[15px] font-semibold" title={activity.name}>
          {activity.name}
        </h3>
        <p className="muted truncate text-sm" title={`${activity.projectName} / ${activity.path}`}>
          {activity.projectName}
          {activity.path !== "" && ` / ${activity.path}`}
        </p>
        <InBox activity={activity} />
        <Facts activity={activity} />
        <DeskNotes activity={activity} />
        {activity.waitsFor.length > 0 && <p className="undecided text-sm">waits for {activity.waitsFor.join(", ")}</p>}
        <Blocked activity={activity} open={more} />
      </div>
      <div className="flex flex-col gap-1 md:items-start">
        <div className="flex flex-wrap items-start gap-x-2 gap-y-1">
          <SendField
            label={`Time on ${activity.name}`}
            placeholder={TIME_HINT}
            width="w-40"
            action="Book"
            pending={time.isPending}
            failure={time.error?.message ?? null}
            onSend={sendTime}
          />
          <button
            type="button"
            className="btn btn-sm btn-square"
            aria-label={`Start the clock on ${activity.name}`}
            title={
              clock === "none"
                ? "Start the clock"
                : clock === "here"
                  ? "The clock runs"
                  : "The clock runs on another activity; stop it first"
            }
            disabled={clock !== "none" || start.isPending}
            onClick={() => start.mutate(undefined)}
          >
            <Timer size={15} aria-hidden="true" />
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-sm"
            aria-expanded={more}
            aria-label={`More on ${activity.name}`}
            onClick={() => setMore(!more)}
          >
            {more ? "Less" : "More"}
          </button>
          <TalkButton
            place={{ about: "activity", project: activity.project, aboutId: activity.activity }}
            of={activity.name}
          />
        </div>
        <ProgressPart activity={activity} day={day} said={said} />
        {more && <More activity={activity} day={day} />}
      </div>
    </li>
  );
}
