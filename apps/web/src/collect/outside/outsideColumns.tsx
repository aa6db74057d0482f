import type { OutsideLine, OutsideTargets } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import type { Column } from "../../shared/table/column.ts";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { NameChoice } from "../../shared/fields/NameChoice.tsx";
import { dateWords, numberWords } from "../../shared/words/words.ts";
import { ActivityChoice } from "./ActivityChoice.tsx";

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

/** The columns of lines that came from outside. */
export function columnsOf(
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
export function MatchByHand({ line, targets }: { line: OutsideLine; targets: OutsideTargets }) {
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
