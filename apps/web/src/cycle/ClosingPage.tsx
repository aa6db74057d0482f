import type { Closing } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { useProject } from "../project/useProject.ts";
import { call } from "../shared/session/api.ts";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { holds, useMe } from "../shared/session/session.ts";
import { countWords, dateWords, momentWords } from "../shared/words/words.ts";
import { closingQuery } from "./queries.ts";

type End = "done" | "dropped" | "parked";
const ENDS: Record<End, string> = { done: "done", dropped: "dropped as it is", parked: "parked" };

type Activity = Closing["activities"][number];

/** What becomes of an activity unless someone says otherwise: work that counts already is done, the rest is parked. */
const usual = ({ mayPark }: Activity): End => (mayPark ? "parked" : "done");
/** How an activity can end. */
const endsOf = ({ mayPark }: Activity): End[] =>
  (Object.keys(ENDS) as End[]).filter((end) => end !== "parked" || mayPark);

/** What becomes of each activity that is left, one by one or all alike. */
function Fates({
  closing,
  project,
  endOf,
  onSay,
}: {
  closing: Closing;
  project: { id: string };
  endOf: (activity: Activity) => End;
  onSay: (more: Record<string, End>) => void;
}) {
  return (
    <>
      <p className="muted text-sm">
        Done: 100% as of {dateWords(closing.dataDate)}. Dropped as it is: ended on that day at the percent it has.
        Parked: it stays in the plan and counts for nothing; work with dates, percent, time or cost on it cannot be.
        Opening the project again takes all of this back.
      </p>
      <p className="my-1 flex flex-wrap gap-2 text-sm">
        All of them:{" "}
        {(Object.keys(ENDS) as End[]).map((end) => (
          <button
            key={end}
            type="button"
            className="btn btn-xs"
            onClick={() =>
              onSay(
                Object.fromEntries(
                  closing.activities.filter((activity) => endsOf(activity).includes(end)).map(({ id }) => [id, end]),
                ),
              )
            }
          >
            {ENDS[end]}
          </button>
        ))}
      </p>
      <table className="ledger panel-table" aria-label="What remains">
        <thead>
          <tr>
            <th>Activity</th>
            <th>State</th>
            <th>Finishes</th>
            <th className="num">Booked</th>
            <th>It is</th>
          </tr>
        </thead>
        <tbody>
          {closing.activities.map((activity) => (
            <tr key={activity.id}>
              <td>
                <Link className="link-quiet" to={`/projects/${project.id}/plan?at=${encodeURIComponent(activity.id)}`}>
                  {activity.name}
                </Link>
              </td>
              <td>
                {activity.state === "inProgress"
                  ? `begun${activity.percent === null ? "" : `, ${activity.percent}%`}`
                  : "not begun"}
              </td>
              <td className="whitespace-nowrap">{dateWords(activity.finish)}</td>
              <td className="num">{activity.postedMinutes === 0 ? "" : formatHours(activity.postedMinutes)}</td>
              <td>
                <select
                  className="select select-xs w-36"
                  aria-label={`What becomes of ${activity.name}`}
                  value={endOf(activity)}
                  onChange={(event) => onSay({ [activity.id]: event.target.value as End })}
                >
                  {endsOf(activity).map((end) => (
                    <option key={end} value={end}>
                      {ENDS[end]}
                    </option>
                  ))}
                </select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function Left({ closing, project }: { closing: Closing; project: { id: string; name: string } }) {
  const client = useQueryClient();
  const [said, setSaid] = useState<Record<string, End>>({});
  const [word, setWord] = useState("");
  const endOf = (activity: Activity): End => said[activity.id] ?? usual(activity);
  const close = useMutation({
    mutationFn: () =>
      call("POST /api/projects/:project/closing", {
        params: { project: project.id },
        body: {
          word,
          activities: Object.fromEntries(closing.activities.map((activity) => [activity.id, endOf(activity)])),
        },
      }),
    onSuccess: () => {
      toast(`${project.name} is closed.`);
      void client.invalidateQueries();
    },
  });
  return (
    <>
      {closing.first.length > 0 && (
        <div className="mb-3 border-l-4 border-current pl-3">
          <h2 className="text-base">To be settled first</h2>
          <ul className="undecided text-sm">
            {closing.first.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </div>
      )}
      <h2 className="text-base">
        {closing.activities.length === 0
          ? "Nothing remains"
          : `${countWords(closing.activities.length, "activity remains", "activities remain")}`}
      </h2>
      {closing.activities.length > 0 && (
        <Fates closing={closing} project={project} endOf={endOf} onSay={(more) => setSaid({ ...said, ...more })} />
      )}
      <form
        className="mt-3 flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          close.mutate();
        }}
      >
        <label className="flex flex-col gap-1">
          <span className="text-sm font-semibold">Why it is closed</span>
          <input
            className="input input-sm w-96"
            value={word}
            onChange={(event) => setWord(event.target.value)}
            placeholder="handed over, called off …"
          />
        </label>
        <button
          className="btn btn-primary btn-sm"
          disabled={close.isPending || word.trim() === "" || closing.first.length > 0}
        >
          Close the project
        </button>
      </form>
      {close.error !== null && <Failure error={close.error} />}
    </>
  );
}

function Closed({
  closed,
  project,
}: {
  closed: NonNullable<Closing["closed"]>;
  project: { id: string; name: string };
}) {
  const client = useQueryClient();
  const me = useMe();
  const [reason, setReason] = useState("");
  const open = useMutation({
    mutationFn: () =>
      call("DELETE /api/projects/:project/closing", { params: { project: project.id }, body: { reason } }),
    onSuccess: () => {
      toast(`${project.name} is open again.`);
      void client.invalidateQueries();
    },
  });
  return (
    <>
      <p>
        {closed.by} closed this project on {momentWords(closed.at)}: “{closed.word}”. Nothing in it changes any more.
      </p>
      {closed.ended > 0 && (
        <p className="muted text-sm">
          Closing ended {countWords(closed.ended, "activity", "activities")}. Opened again,{" "}
          {closed.ended === 1 ? "it stands" : "they stand"} as before.
        </p>
      )}
      {holds(me, "controller") && (
        <form
          className="mt-3 flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            open.mutate();
          }}
        >
          <label className="flex flex-col gap-1">
            <span className="text-sm font-semibold">Why it is opened again</span>
            <input className="input input-sm w-96" value={reason} onChange={(event) => setReason(event.target.value)} />
          </label>
          <button className="btn btn-sm" disabled={open.isPending || reason.trim() === ""}>
            Open it again
          </button>
        </form>
      )}
      {open.error !== null && <Failure error={open.error} />}
    </>
  );
}

/** Closing a project on purpose: what is left, how each of it ends, and why. */
export function ClosingPage() {
  const look = useProject();
  const query = useQuery(closingQuery(look.id));
  return (
    <div className="page max-w-5xl">
      <Loaded query={query}>
        {(closing) =>
          closing.closed !== null ? (
            <Closed closed={closing.closed} project={look} />
          ) : look.mayEdit ? (
            <Left closing={closing} project={look} />
          ) : (
            <p className="muted">Only the project’s manager or a controller closes it.</p>
          )
        }
      </Loaded>
    </div>
  );
}
