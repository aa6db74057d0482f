import type { Desk, DeskActivity, Report } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { LayoutGrid, List } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useLocation } from "react-router";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { DateField } from "../../shared/fields/DateField.tsx";
import { OwnMatters } from "../../matters/MatterItems.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { keepPreference, preference } from "../../shared/session/preferences.ts";
import { dateWords } from "../../shared/words/words.ts";
import { DeskCard } from "./DeskCard.tsx";
import type { Said } from "./ProgressPart.tsx";
import { DeskGlance } from "./DeskGlance.tsx";
import { byDue } from "./dueGroups.ts";
import { LeavePart } from "./LeavePart.tsx";
import { deskQuery } from "../queries.ts";
import { reportWords } from "../reportWords.ts";
import { RunningClock } from "./RunningClock.tsx";
import { Announcements } from "../../talk/announce/Announcements.tsx";

const STATE_WORDS: Record<Report["state"], string> = {
  submitted: "waits to be accepted",
  posted: "accepted",
  returned: "returned",
  withdrawn: "taken back",
};

function Sent({ report }: { report: Report }) {
  const client = useQueryClient();
  const takeBack = useMutation({
    mutationFn: () =>
      report.leaveUntil === null
        ? call("DELETE /api/desk/reports/:report", { params: { report: report.id } })
        : call("DELETE /api/desk/leave", { body: { from: report.date, to: report.leaveUntil } }),
    onSettled: () => client.invalidateQueries({ queryKey: ["desk"] }),
    onError: (error) => toast.error(error.message),
  });
  return (
    <li className="border-b rule py-1 text-sm">
      <span className="whitespace-nowrap">{dateWords(report.date)}</span> ·{" "}
      <span className="font-semibold">{reportWords(report)}</span>
      {report.leaveUntil === null && ` on ${report.activityName}`}
      {report.note !== "" && <span className="muted"> “{report.note}”</span>}{" "}
      <span className={report.state === "returned" ? "adverse" : report.state === "submitted" ? "undecided" : "muted"}>
        {STATE_WORDS[report.state]}
        {report.word !== null && report.word !== "" && `: “${report.word}”`}
      </span>
      {report.state === "submitted" && (
        <button
          type="button"
          className="btn btn-xs ml-2"
          disabled={takeBack.isPending}
          onClick={() => takeBack.mutate()}
        >
          Withdraw
        </button>
      )}
    </li>
  );
}

const SENT_SHOWN = 8;

/** Leave is announced once, though it waits in every project with open work. */
function once(reports: readonly Report[]): Report[] {
  const known = new Set<string>();
  return reports.filter(({ date, leaveUntil, state, word }) => {
    const key = JSON.stringify([date, leaveUntil, state, word]);
    const isKnown = leaveUntil !== null && known.has(key);
    known.add(key);
    return !isKnown;
  });
}

/** What was sent: first what was returned or waits, since it can still be done something about; the rest day by day. */
function SentList({ reports }: { reports: readonly Report[] }) {
  const [all, setAll] = useState(false);
  const said = once(reports);
  const ordered = [
    ...said.filter(({ state }) => state !== "posted"),
    ...said.filter(({ state }) => state === "posted"),
  ];
  return (
    <>
      <h2 className="border-b-2 border-current pb-0.5 text-base">What you sent</h2>
      {reports.length === 0 ? (
        <p className="muted py-2 text-sm">Nothing yet. Type “1.5h” beside an activity and press Enter.</p>
      ) : (
        <ul>
          {(all ? ordered : ordered.slice(0, SENT_SHOWN)).map((report) => (
            <Sent key={report.id} report={report} />
          ))}
        </ul>
      )}
      {ordered.length > SENT_SHOWN && (
        <p className="py-1 text-sm">
          <button type="button" className="underline cursor-pointer" aria-expanded={all} onClick={() => setAll(!all)}>
            {all ? "Fewer" : `All ${ordered.length} of the last five weeks`}
          </button>
        </p>
      )}
      <p className="py-1 text-sm">
        <Link className="underline" to="/desk/week">
          Week by week
        </Link>
      </p>
    </>
  );
}

const VIEW = "desk.view";
const WAITING = "desk.waiting";

/** Goes to the activity that the address names after its #, once the desk is there. */
function useActivityInAddress(): void {
  const { hash } = useLocation();
  useEffect(() => {
    const place = hash === "" ? null : document.getElementById(decodeURIComponent(hash.slice(1)));
    place?.scrollIntoView({ block: "center" });
    place?.focus({ preventScroll: true });
  }, [hash]);
}

/** Where the clock runs, seen from an activity. */
function clockOn({ clock }: Desk, { project, activity }: DeskActivity): "none" | "here" | "elsewhere" {
  if (clock === null) return "none";
  return clock.project === project && clock.activity === activity ? "here" : "elsewhere";
}

/** What was last said of an activity, though it waits to be accepted. */
function lastSaid({ reports }: Desk, { project, activity, percent, stages }: DeskActivity): Said {
  const waiting = reports.filter(
    (report) => report.state === "submitted" && report.project === project && report.activity === activity,
  );
  return {
    percent: waiting.find((report) => report.percent !== null)?.percent ?? percent,
    stage: waiting.find((report) => report.stage !== null)?.stage ?? stages?.at ?? null,
  };
}

/** Why no activity is shown. */
function nothingWords({ person }: Desk, waits: number): string {
  if (person === null)
    return "Your account is tied to no person in the plans; an administrator can do that under Accounts.";
  return waits > 0
    ? "All of your activities wait for others, and are hidden."
    : "You have no open activities. When a project manager puts you on one, it appears here.";
}

function Work({ desk }: { desk: Desk }) {
  useActivityInAddress();
  const [day, setDay] = useState(desk.today);
  const [view, setView] = useState(preference(VIEW) ?? "list");
  const [waiting, setWaiting] = useState(preference(WAITING) ?? "shown");
  const keep = (name: string, value: string, set: (value: string) => void): void => {
    set(value);
    keepPreference(name, value);
  };
  const bookedToday = desk.booked[day] ?? 0;
  const waits = desk.activities.filter(({ waitsFor }) => waitsFor.length > 0).length;
  const groups = byDue(
    waiting === "shown" ? desk.activities : desk.activities.filter(({ waitsFor }) => waitsFor.length === 0),
    desk.today,
  );
  const card = view === "cards";
  return (
    <div className="page grid gap-x-8 lg:grid-cols-[1fr_20rem]">
      <section>
        <Announcements />
        {desk.clock !== null && <RunningClock clock={desk.clock} />}
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pb-1">
          <h1 className="text-xl">Your work</h1>
          <span className="flex items-center gap-2 text-sm">
            Booking on <DateField label="Day to book on" small value={day} max={desk.today} onDate={setDay} />
          </span>
          <span className="muted text-sm">
            {bookedToday === 0 ? "nothing booked on this day yet" : `${formatHours(bookedToday)} booked on this day`}
          </span>
          <span className="ml-auto flex items-center gap-3 text-sm">
            {waits > 0 && (
              <label className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  checked={waiting === "shown"}
                  onChange={(event) => keep(WAITING, event.target.checked ? "shown" : "hidden", setWaiting)}
                />
                {waits} waiting for others
              </label>
            )}
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              aria-label={card ? "Show as a list" : "Show as cards"}
              onClick={() => keep(VIEW, card ? "list" : "cards", setView)}
            >
              {card ? <List size={14} aria-hidden="true" /> : <LayoutGrid size={14} aria-hidden="true" />}{" "}
              {card ? "List" : "Cards"}
            </button>
            <Link className="underline" to="/desk/week">
              The week
            </Link>
          </span>
        </div>
        <DeskGlance desk={desk} day={day} onDay={setDay} />
        <OwnMatters />
        {groups.length === 0 && <p className="muted py-6">{nothingWords(desk, waits)}</p>}
        {groups.map(({ group, activities }) => (
          <section key={group} aria-label={group}>
            <h2 className={`mt-3 border-b-2 border-current pb-0.5 text-base ${group === "Overdue" ? "adverse" : ""}`}>
              {group}
            </h2>
            <ul className={card ? "grid gap-3 pt-2 md:grid-cols-2" : ""}>
              {activities.map((activity) => (
                <DeskCard
                  key={`${activity.project} ${activity.activity}`}
                  activity={activity}
                  day={day}
                  clock={clockOn(desk, activity)}
                  said={lastSaid(desk, activity)}
                  card={card}
                />
              ))}
            </ul>
          </section>
        ))}
      </section>
      <aside aria-label="What you sent" className="max-lg:mt-6">
        <SentList reports={desk.reports.filter(({ state }) => state !== "withdrawn")} />
        {desk.person !== null && <LeavePart desk={desk} />}
      </aside>
    </div>
  );
}

/** A contributor's own page. */
export function DeskPage() {
  const query = useQuery(deskQuery);
  return <Loaded query={query}>{(desk) => <Work desk={desk} />}</Loaded>;
}
