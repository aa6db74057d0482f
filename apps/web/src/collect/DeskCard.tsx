import type { DeskActivity, ReportRequest } from "@chronometra/contract";
import { formatHours, parseDuration } from "@chronometra/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { toast } from "sonner";
import { call } from "../shared/api.ts";
import { dateWords, shortDateWords } from "../shared/words.ts";
import { readTime } from "./readTime.ts";

interface Props {
  readonly activity: DeskActivity;
  /** The day that time is booked on, `YYYY-MM-DD`. */
  readonly day: string;
}

function useReport(activity: DeskActivity, said: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (report: Omit<ReportRequest, "project" | "activity">) => call("POST /api/desk/reports", { body: { project: activity.project, activity: activity.activity, ...report } }),
    onSuccess: (report) => {
      toast(`${said}: ${activity.name}`, {
        action: { label: "Take back", onClick: () => void call("DELETE /api/desk/reports/:report", { params: { report: report.id } }).then(() => client.invalidateQueries({ queryKey: ["desk"] }), (error: Error) => toast.error(error.message)) },
      });
      void client.invalidateQueries({ queryKey: ["desk"] });
      void client.invalidateQueries({ queryKey: ["period"] });
    },
  });
}

interface FieldProps {
  readonly label: string;
  readonly placeholder: string;
  readonly width: string;
  readonly action: string;
  readonly pending: boolean;
  readonly failure: string | null;
  /** Sends what was typed; gives what is wrong with it, or nothing. */
  readonly onSend: (text: string, clear: () => void) => string | null;
}

/** One field that is sent with Enter; what cannot be read stays, with the reason. */
function SendField({ label, placeholder, width, action, pending, failure, onSend }: FieldProps) {
  const [text, setText] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const send = (event: FormEvent): void => {
    event.preventDefault();
    if (text.trim() !== "") setFault(onSend(text, () => setText("")));
  };
  const wrong = fault ?? failure;
  return (
    <form onSubmit={send} className="flex flex-col">
      <span className="flex">
        <input className={`input input-sm ${width}`} aria-label={label} placeholder={placeholder} value={text} aria-invalid={wrong !== null} onChange={(event) => { setText(event.target.value); setFault(null); }} />
        <button className="btn btn-sm -ml-px" disabled={pending || text.trim() === ""} aria-label={`${action}: ${label}`}>{action}</button>
      </span>
      {wrong !== null && <span role="alert" className="adverse max-w-64 text-sm">{wrong}</span>}
    </form>
  );
}

function Facts({ activity }: { activity: DeskActivity }) {
  const { start, finish, state, percent, remainingMinutes, plannedMinutes, postedMinutes, waitingMinutes } = activity;
  return (
    <p className="text-sm">
      {state === "notStarted" ? `starts ${shortDateWords(start)}, ` : ""}finishes {dateWords(finish)}
      {percent !== null && ` · ${percent}% done`}
      {plannedMinutes > 0 && ` · ${formatHours(remainingMinutes)} left of ${formatHours(plannedMinutes)}`}
      {postedMinutes > 0 && ` · ${formatHours(postedMinutes)} booked`}
      {waitingMinutes > 0 && <span className="undecided"> · {formatHours(waitingMinutes)} waiting to be accepted</span>}
    </p>
  );
}

/** One of a contributor's own activities: what it is, when it is due, and three fields to report on it. */
export function DeskCard({ activity, day }: Props) {
  const time = useReport(activity, "Time sent");
  const percent = useReport(activity, "Percent sent");
  const left = useReport(activity, "Hours left sent");
  const sendTime = (text: string, clear: () => void): string | null => {
    const read = readTime(text);
    if ("fault" in read) return read.fault;
    time.mutate({ date: day, minutes: read.minutes, ...(read.note === "" ? {} : { note: read.note }) }, { onSuccess: clear });
    return null;
  };
  const sendPercent = (text: string, clear: () => void): string | null => {
    const value = Number(text.replace("%", "").replace(",", ".").trim());
    if (!Number.isFinite(value) || value < 0 || value > 100) return "Percent lies between 0 and 100.";
    percent.mutate({ date: day, percent: value }, { onSuccess: clear });
    return null;
  };
  const sendLeft = (text: string, clear: () => void): string | null => {
    const minutes = parseDuration(text, 480, "hours");
    if (minutes === null) return "Write the hours left, as 12h or 1.5d.";
    left.mutate({ date: day, remainingMinutes: minutes }, { onSuccess: clear });
    return null;
  };
  return (
    <li className="grid gap-x-6 gap-y-1 border-b rule py-2 md:grid-cols-[1fr_auto] md:items-start">
      <div className="min-w-0">
        <h3 className="truncate font-sans text-[15px] font-semibold" title={activity.name}>{activity.name}</h3>
        <p className="muted truncate text-sm" title={`${activity.projectName} / ${activity.path}`}>{activity.projectName}{activity.path !== "" && ` / ${activity.path}`}</p>
        <Facts activity={activity} />
        {activity.waitsFor.length > 0 && <p className="undecided text-sm">waits for {activity.waitsFor.join(", ")}</p>}
      </div>
      <div className="flex flex-wrap gap-2">
        <SendField label={`Time on ${activity.name}`} placeholder="1.5h, a note" width="w-40" action="Book" pending={time.isPending} failure={time.error?.message ?? null} onSend={sendTime} />
        <SendField label={`Percent done of ${activity.name}`} placeholder={activity.percent === null ? "% done" : `${activity.percent}%`} width="w-20" action="Set" pending={percent.isPending} failure={percent.error?.message ?? null} onSend={sendPercent} />
        <SendField label={`Hours left on ${activity.name}`} placeholder="h left" width="w-20" action="Set" pending={left.isPending} failure={left.error?.message ?? null} onSend={sendLeft} />
      </div>
    </li>
  );
}
