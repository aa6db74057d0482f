import type { Owing } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import type { Column } from "../shared/table/column.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { holds, useMe } from "../shared/session/session.ts";
import { useAddress } from "../shared/page/useAddress.ts";
import { countWords, dateWords, momentWords } from "../shared/words/words.ts";
import { owingQuery } from "./queries.ts";
import { NoPeriod } from "./NoPeriod.tsx";

type Line = Owing["people"][number];

/** Who can be reached and was not reminded in this period yet. */
const isUnreminded = ({ canBeReached, remindedAt }: Line): boolean => canBeReached && remindedAt === null;

function columnsOf(
  chosen: ReadonlySet<string>,
  onChoose: (id: string, on: boolean) => void,
  mayOpenWeeks: boolean,
): readonly Column<Line>[] {
  return [
    {
      id: "tick",
      head: "Select",
      tool: true,
      value: () => null,
      show: ({ id, name, mayRemind, canBeReached }) =>
        mayRemind &&
        canBeReached && (
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            aria-label={`Select ${name}`}
            checked={chosen.has(id)}
            onChange={(event) => onChoose(id, event.target.checked)}
          />
        ),
    },
    { id: "name", head: "Person", value: ({ name }) => name },
    {
      id: "projects",
      head: "On",
      wraps: true,
      value: ({ projects }) => projects.map(({ code, name }) => `${code} ${name}`).join(", "),
      show: ({ projects }) =>
        projects.map(({ id, code, name, since }, i) => (
          <span key={id}>
            {i > 0 && ", "}
            <Link className="link-quiet" to={`/projects/${id}/board`} title={`${name}, work since ${dateWords(since)}`}>
              {code} {name}
            </Link>
          </span>
        )),
    },
    {
      id: "weeks",
      head: "Weeks of",
      wraps: true,
      value: ({ weeks }) => weeks.join(", "),
      show: ({ weeks }) =>
        weeks.map((monday, i) => (
          <span key={monday}>
            {i > 0 && ", "}
            {mayOpenWeeks ? (
              <Link className="link-quiet" to={`/time/people?date=${monday}`}>
                {dateWords(monday)}
              </Link>
            ) : (
              dateWords(monday)
            )}
          </span>
        )),
    },
    {
      id: "reminded",
      head: "Reminded",
      value: ({ remindedAt }) => remindedAt,
      show: ({ remindedAt, canBeReached }) =>
        remindedAt !== null ? (
          momentWords(remindedAt)
        ) : canBeReached ? (
          <span className="undecided">not yet</span>
        ) : (
          <span className="muted">has no account here</span>
        ),
    },
  ];
}

/** Sends those chosen a message each, and says whom it did not reach. */
function Remind({ people, onDone }: { people: readonly Line[]; onDone: () => void }) {
  const client = useQueryClient();
  const [words, setWords] = useState("Please report your time and progress; the period is to be issued soon.");
  const remind = useMutation({
    mutationFn: () => call("POST /api/period/reminders", { body: { people: people.map(({ id }) => id), words } }),
    onSuccess: ({ sent, failed }) => {
      toast(
        `${countWords(sent, "reminder", "reminders")} sent.${failed.length === 0 ? "" : ` Not reached: ${failed.map(({ to, why }) => `${to} (${why})`).join(", ")}.`}`,
      );
      onDone();
      void client.invalidateQueries();
    },
  });
  return (
    <form
      className="mb-2 flex flex-wrap items-end gap-2 border-l-4 border-accent pl-3"
      onSubmit={(event) => {
        event.preventDefault();
        remind.mutate();
      }}
    >
      <label className="flex flex-col text-sm">
        Reminder
        <input
          className="input input-sm w-96 max-w-full"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
      </label>
      <button className="btn btn-primary btn-sm" disabled={remind.isPending || words.trim() === ""}>
        Remind {countWords(people.length, "person", "people")}
      </button>
      {remind.error !== null && <Failure error={remind.error} />}
    </form>
  );
}

function Missing({ owing }: { owing: Owing }) {
  const me = useMe();
  const [params, put] = useAddress();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const project = params.get("project");
  const only = params.get("show") === "unreminded";
  const all = useMemo(
    () =>
      project === null
        ? owing.people
        : owing.people.filter(({ projects }) => projects.some(({ id }) => id === project)),
    [owing, project],
  );
  const lines = useMemo(() => (only ? all.filter(isUnreminded) : all), [all, only]);
  const mayOpenWeeks = holds(me, "controller", "projectManager");
  const columns = useMemo(
    () =>
      columnsOf(
        chosen,
        (id, on) => setChosen(new Set(on ? [...chosen, id] : [...chosen].filter((other) => other !== id))),
        mayOpenWeeks,
      ),
    [chosen, mayOpenWeeks],
  );
  const reachable = lines.filter(({ mayRemind, canBeReached }) => mayRemind && canBeReached);
  const here = reachable.filter(({ id }) => chosen.has(id));
  const named =
    project === null ? null : owing.people.flatMap(({ projects }) => projects).find(({ id }) => id === project);
  if (owing.number === null) return <NoPeriod />;
  return (
    <div className="page">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pb-2">
        <h1 className="text-xl">{countWords(all.length, "person has", "people have")} not reported</h1>
        <p className="muted text-sm">
          Period {owing.number}, {dateWords(owing.from)} to {dateWords(owing.dataDate)}: whoever has unfinished work
          that was to begin by then, and has reported neither time nor progress of it
          {named == null ? "" : `, on ${named.code} ${named.name}`}.
        </p>
        {project !== null && (
          <button type="button" className="text-sm underline cursor-pointer" onClick={() => put({ project: null })}>
            On all projects
          </button>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-4 pb-2">
        <label className="flex items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={only}
            onChange={(event) => put({ show: event.target.checked ? "unreminded" : null })}
          />
          only the {all.filter(isUnreminded).length} to remind
        </label>
        {reachable.length > 0 && (
          <button
            type="button"
            className="btn btn-xs"
            onClick={() =>
              setChosen(here.length === reachable.length ? new Set() : new Set(reachable.map(({ id }) => id)))
            }
          >
            {here.length === reachable.length ? "Select none" : `Select all ${reachable.length}`}
          </button>
        )}
      </div>
      {here.length > 0 && <Remind people={here} onDone={() => setChosen(new Set())} />}
      <DataTable
        name="Not reported"
        rows={lines}
        columns={columns}
        rowKey={({ id }) => id}
        empty={only && all.length > 0 ? "Everyone who can be reached was reminded." : "Everyone has reported."}
      />
    </div>
  );
}

/** Who owes time or progress of the open period, on what, and who of them was reminded. */
export function MissingPage() {
  return <Loaded query={useQuery(owingQuery)}>{(owing) => <Missing owing={owing} />}</Loaded>;
}
