import type { OutsideLine, OutsideTargets } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import type { Column } from "../../shared/table/column.ts";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure, Loaded } from "../../shared/dialogs/Failure.tsx";
import { NameChoice } from "../../shared/fields/NameChoice.tsx";
import { holds, useMe } from "../../shared/session/session.ts";
import { countWords, dateWords, numberWords } from "../../shared/words/words.ts";
import { ActivityChoice } from "./ActivityChoice.tsx";
import { BringLines, takenWords } from "./BringLines.tsx";
import { CostByHand } from "./CostByHand.tsx";
import { linesEffectQuery, linesQuery, targetsQuery } from "./queries.ts";

const STATES = {
  unmatched: "to be matched",
  matched: "ready to post",
  correction: "corrected",
  aside: "set aside",
  posted: "posted",
} as const;
type Measured = Pick<OutsideLine, "amount" | "minutes">;
const measureWords = ({ amount, minutes }: Measured): string =>
  amount !== null ? numberWords(amount, 4) : minutes !== null ? formatHours(minutes) : "";

/** How much a line says; of a correction, what it said before as well. */
function amountWords(line: OutsideLine): string {
  const { was, amount, currency, category } = line;
  const now = `${measureWords(line)}${amount === null ? "" : ` ${currency ?? ""}`}`.trim();
  if (was === null) return now;
  const before = was.category === category ? measureWords(was) : `${measureWords(was)} ${was.category}`.trim();
  return `${before} → ${now}${was.posted ? ", posted" : ""}`;
}

function columnsOf(
  chosen: ReadonlySet<string>,
  onChoose: (id: string, on: boolean) => void,
): readonly Column<OutsideLine>[] {
  const where = (line: OutsideLine): string =>
    line.activity !== null
      ? `${line.activity.name}${line.person === null ? "" : `, ${line.person.name}`}`
      : [line.said.activity, line.said.person].filter((words) => words !== "").join(", ");
  return [
    {
      id: "tick",
      head: "Select",
      tool: true,
      value: () => null,
      show: (line) => (
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          aria-label={`Select ${line.reference || where(line)} of ${dateWords(line.date)}`}
          checked={chosen.has(line.id)}
          onChange={(event) => onChoose(line.id, event.target.checked)}
        />
      ),
    },
    {
      id: "state",
      head: "State",
      value: ({ state }) => STATES[state],
      show: ({ state }) => (
        <span
          className={
            state === "unmatched"
              ? "adverse"
              : state === "matched"
                ? "favourable"
                : state === "correction"
                  ? "undecided"
                  : "muted"
          }
        >
          {STATES[state]}
        </span>
      ),
    },
    { id: "date", head: "Date", value: ({ date }) => date, show: ({ date }) => dateWords(date) },
    {
      id: "amount",
      head: "How much",
      numeric: true,
      value: ({ amount, minutes }) => amount ?? minutes,
      says: ({ amount, minutes, currency }) =>
        amount !== null ? `${amount} ${currency ?? ""}`.trim() : minutes === null ? null : `${minutes / 60} h`,
      show: amountWords,
    },
    {
      id: "project",
      head: "Project",
      value: ({ project, said }) => project?.code ?? said.project,
      show: ({ project, said }) =>
        project === null ? (
          <span className="adverse">{said.project}</span>
        ) : (
          <span title={project.name}>{project.code}</span>
        ),
    },
    {
      id: "activity",
      head: "On",
      value: where,
      show: (line) => (
        <span className={line.activity === null ? "undecided" : ""}>{where(line) || "nothing named"}</span>
      ),
    },
    { id: "category", head: "Category", value: ({ category }) => category },
    { id: "reference", head: "Reference", value: ({ reference }) => reference },
    { id: "note", head: "Note", value: ({ note }) => note, hidden: true },
    { id: "source", head: "From", value: ({ source }) => source },
    { id: "why", head: "Why", wraps: true, value: ({ why }) => why },
  ];
}

/** Where a line belongs, said by hand. */
function MatchByHand({ line, targets }: { line: OutsideLine; targets: OutsideTargets }) {
  const client = useQueryClient();
  const [project, setProject] = useState(targets.find(({ id }) => id === line.project?.id) ?? null);
  const [activity, setActivity] = useState<string | null>(null);
  const [person, setPerson] = useState<string | null>(null);
  const [remember, setRemember] = useState(true);
  const match = useMutation({
    mutationFn: () =>
      call("PUT /api/outside/lines/:line", {
        params: { line: line.id },
        body: { project: project!.id, activity: activity!, ...(person === null ? {} : { person }), remember },
      }),
    onSuccess: () => {
      toast("Matched.");
      void client.invalidateQueries({ queryKey: ["outside"] });
    },
  });
  return (
    <form
      className="flex flex-wrap items-center gap-2 text-sm"
      aria-label="Match by hand"
      onSubmit={(event) => {
        event.preventDefault();
        match.mutate();
      }}
    >
      <span>
        “{[line.said.project, line.said.activity, line.said.person].filter((words) => words !== "").join(" / ")}” is
      </span>
      <ActivityChoice
        targets={targets}
        start={line.project?.id ?? null}
        onChoose={(found, id) => {
          setProject(found);
          setActivity(id);
        }}
      />
      {line.kind === "time" && project !== null && (
        <NameChoice label="Person" width="w-44" things={project.people} onChoose={setPerson} />
      )}
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={remember}
          onChange={(event) => setRemember(event.target.checked)}
        />
        always, for all that say so
      </label>
      <button
        className="btn btn-sm"
        disabled={match.isPending || project === null || activity === null || (line.kind === "time" && person === null)}
      >
        Match
      </button>
      {match.error !== null && <Failure error={match.error} />}
    </form>
  );
}

/** What accepting corrections does to what was posted, and to what was not. */
function correctedWords(lines: readonly OutsideLine[]): string {
  const posted = lines.filter(({ was }) => was?.posted === true).length;
  const rest = lines.length - posted;
  return [
    ...(posted > 0 ? [`${countWords(posted, "line is", "lines are")} posted: the difference is posted beside it`] : []),
    ...(rest > 0
      ? [`${countWords(rest, "line is", "lines are")} not posted yet, and will say what its system says now`]
      : []),
  ]
    .join("; ")
    .concat(".");
}

function Actions({
  lines,
  targets,
  onDone,
}: {
  lines: readonly OutsideLine[];
  targets: OutsideTargets;
  onDone: () => void;
}) {
  const client = useQueryClient();
  const [why, setWhy] = useState("");
  const ids = lines.map(({ id }) => id);
  const ready = lines.every(({ state }) => state === "matched");
  const corrected = lines.every(({ state }) => state === "correction");
  const costs = ready || corrected ? lines.filter(({ kind }) => kind === "cost").map(({ id }) => id) : [];
  const effect = useQuery(linesEffectQuery(costs));
  const after = (words: string): void => {
    toast(words);
    onDone();
    void client.invalidateQueries();
  };
  const post = useMutation({
    mutationFn: () => call("POST /api/outside/post", { body: { ids } }),
    onSuccess: ({ costs: posted, reports }) =>
      after(
        [
          posted > 0 ? `${countWords(posted, "cost", "costs")} posted` : "",
          reports > 0 ? `${countWords(reports, "time entry waits", "time entries wait")} to be reviewed` : "",
        ]
          .filter((words) => words !== "")
          .join("; ") + ".",
      ),
  });
  const aside = useMutation({
    mutationFn: (reason: string | null) => call("POST /api/outside/aside", { body: { ids, why: reason } }),
    onSuccess: (_done, reason) => after(reason === null ? "Taken up again." : "Set aside, not dropped."),
  });
  const correct = useMutation({
    mutationFn: () => call("POST /api/outside/corrections", { body: { ids } }),
    onSuccess: () => after(`${countWords(ids.length, "correction", "corrections")} accepted.`),
  });
  const error = post.error ?? aside.error ?? correct.error ?? effect.error;
  return (
    <div className="mb-2 flex flex-col gap-2 border-l-4 border-accent pl-3">
      <div className="flex flex-wrap items-center gap-2">
        <span className="font-semibold">{countWords(lines.length, "line", "lines")}</span>
        {corrected && (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={correct.isPending || (costs.length > 0 && effect.data === undefined)}
            onClick={() => correct.mutate()}
          >
            Accept {lines.length === 1 ? "the correction" : "the corrections"}
          </button>
        )}
        {!corrected && (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={!ready || post.isPending || (costs.length > 0 && effect.data === undefined)}
            onClick={() => post.mutate()}
          >
            Post
          </button>
        )}
        {lines.every(({ state }) => state === "aside") ? (
          <button type="button" className="btn btn-sm" disabled={aside.isPending} onClick={() => aside.mutate(null)}>
            Restore
          </button>
        ) : (
          <>
            <input
              className="input input-sm w-56"
              aria-label="Why it is set aside"
              placeholder="why it is set aside"
              value={why}
              onChange={(event) => setWhy(event.target.value)}
            />
            <button
              type="button"
              className="btn btn-sm"
              disabled={aside.isPending || why.trim().length < 3}
              onClick={() => aside.mutate(why)}
            >
              Set aside
            </button>
          </>
        )}
      </div>
      {corrected && <p className="text-sm">{correctedWords(lines)}</p>}
      {lines.length === 1 && lines[0]!.state !== "aside" && !corrected && (
        <MatchByHand key={lines[0]!.id} line={lines[0]!} targets={targets} />
      )}
      {effect.data !== undefined && costs.length > 0 && (
        <div className="grid gap-4 md:grid-cols-2">
          {effect.data.map((of) => (
            <section key={of.project}>
              <h3 className="text-sm">
                {of.projectName}: {corrected ? "accepting" : "posting"} would
              </h3>
              <EffectView effect={of.effect} />
            </section>
          ))}
        </div>
      )}
      {error !== null && <Failure error={error} />}
    </div>
  );
}

function Lines({ lines, targets }: { lines: readonly OutsideLine[]; targets: OutsideTargets }) {
  const me = useMe();
  const client = useQueryClient();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const columns = useMemo(
    () =>
      columnsOf(chosen, (id, on) =>
        setChosen(new Set(on ? [...chosen, id] : [...chosen].filter((other) => other !== id))),
      ),
    [chosen],
  );
  const here = lines.filter(({ id }) => chosen.has(id));
  const ready = lines.filter(({ state }) => state === "matched");
  const fetchFrom = useMutation({
    mutationFn: (which: "clock" | "ledger") => call("POST /api/outside/simulated", { body: { which } }),
    onSuccess: (taken) => {
      toast(takenWords(taken));
      void client.invalidateQueries({ queryKey: ["outside"] });
    },
    onError: (error) => toast.error(error.message),
  });
  return (
    <div className="page">
      <div className="flex flex-wrap items-center gap-2 pb-1">
        <h1 className="text-xl">Costs and time from elsewhere</h1>
        <BringLines kind="cost" />
        <BringLines kind="time" />
        {holds(me, "controller") && (
          <>
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              disabled={fetchFrom.isPending}
              onClick={() => fetchFrom.mutate("ledger")}
            >
              From the simulated ledger
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              disabled={fetchFrom.isPending}
              onClick={() => fetchFrom.mutate("clock")}
            >
              From the simulated time clock
            </button>
          </>
        )}
        {ready.length > 0 && (
          <button
            type="button"
            className="btn btn-xs ml-auto"
            onClick={() => setChosen(new Set(ready.map(({ id }) => id)))}
          >
            Select all {ready.length} that are ready
          </button>
        )}
      </div>
      <CostByHand targets={targets} />
      {here.length > 0 && (
        <Actions key={here.length} lines={here} targets={targets} onDone={() => setChosen(new Set())} />
      )}
      <DataTable
        name="Costs and time from elsewhere"
        rows={lines}
        columns={columns}
        rowKey={({ id }) => id}
        empty={
          <>
            Nothing waits. Bring an invoice list or a time sheet as a file, or have another system send it: an
            administrator gives it a token under Other systems.
          </>
        }
      />
    </div>
  );
}

/** Costs and time that came from other systems: matched, posted, or set aside for a decision. */
export function OutsidePage() {
  const lines = useQuery(linesQuery);
  const targets = useQuery(targetsQuery);
  return (
    <Loaded query={lines}>
      {(list) => <Loaded query={targets}>{(to) => <Lines lines={list} targets={to} />}</Loaded>}
    </Loaded>
  );
}
