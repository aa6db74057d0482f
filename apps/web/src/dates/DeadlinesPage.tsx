import type { Promised } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link } from "react-router";
import { periodQuery } from "../cycle/queries.ts";
import type { Column } from "../shared/table/column.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { Foldable } from "../shared/page/Foldable.tsx";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import {
  dateWords,
  DEADLINE_ORDER,
  DEADLINE_TONES,
  DEADLINE_WORDS,
  type DeadlineState,
  driftTone,
  driftWords,
  marginWords,
  sinceWords,
} from "../shared/words/words.ts";
import { CalendarAddress } from "../watch/CalendarAddress.tsx";
import { promiseKey, PromiseLine } from "./PromiseLine.tsx";
import { PromisePanel } from "./PromisePanel.tsx";
import { deadlinesQuery } from "./queries.ts";

/** Working days by which a margin shrank since the last issued period; `null` where there is none to compare with. */
const shrankOf = ({ marginDays, was }: Promised): number | null =>
  was?.marginDays == null || marginDays === null ? null : was.marginDays - marginDays;

function columnsOf(all: readonly Promised[], onChoose: (key: string) => void): readonly Column<Promised>[] {
  return [
    {
      id: "name",
      head: "Milestone or activity",
      value: ({ name }) => name,
      show: (row) => (
        <button
          type="button"
          className="link-quiet min-h-[24px] text-left cursor-pointer"
          onClick={() => onChoose(promiseKey(row))}
        >
          {row.name}
        </button>
      ),
    },
    {
      id: "project",
      head: "Project",
      value: ({ code, projectName }) => `${code} ${projectName}`,
      show: ({ project, code, projectName }) => (
        <Link className="link-quiet" to={`/projects/${project}/dates`}>
          {code} {projectName}
        </Link>
      ),
    },
    {
      id: "state",
      head: "State",
      value: ({ state }) => DEADLINE_ORDER.indexOf(state),
      says: ({ state }) => DEADLINE_WORDS[state],
      show: ({ state }) => (
        <Toned tone={DEADLINE_TONES[state]} marked>
          {DEADLINE_WORDS[state]}
        </Toned>
      ),
    },
    {
      id: "deadline",
      head: "Deadline",
      value: ({ deadline }) => deadline,
      show: ({ deadline }) => dateWords(deadline),
    },
    { id: "finish", head: "Finishes", value: ({ finish }) => finish, show: ({ finish }) => dateWords(finish) },
    {
      id: "margin",
      head: "Margin",
      is: "days",
      hint: "Working days between finish and deadline",
      numeric: true,
      value: ({ marginDays }) => marginDays,
      show: ({ marginDays }) =>
        marginDays === null ? (
          "–"
        ) : (
          <Toned tone={marginDays < 0 ? "adverse" : "plain"}>{marginWords(marginDays)}</Toned>
        ),
    },
    {
      id: "shrank",
      head: sinceWords(all.flatMap(({ was }) => was?.number ?? [])),
      is: "days",
      hint: "How much margin was lost since the last issued period",
      numeric: true,
      value: shrankOf,
      show: (row) => {
        const days = shrankOf(row);
        return days === null ? (
          "–"
        ) : Math.abs(days) < 0.05 ? (
          <span className="muted">as it was</span>
        ) : (
          <Toned tone={driftTone(days)}>{driftWords(days).replace("late", "less").replace("early", "more")}</Toned>
        );
      },
    },
    {
      id: "consequence",
      head: "If not kept",
      wraps: true,
      value: ({ consequence }) => consequence,
      show: ({ consequence, to }) =>
        consequence === null ? (
          <span className="muted">not recorded</span>
        ) : (
          `${consequence}${to === null ? "" : ` (${to})`}`
        ),
    },
    { id: "manager", head: "Manager", value: ({ manager }) => manager, hidden: true },
  ];
}

function Page({ all }: { all: readonly Promised[] }) {
  const [params, put] = useAddress();
  const { data: period } = useQuery(periodQuery);
  const [project, state, at] = [params.get("project"), params.get("state"), params.get("at")];
  const rows = useMemo(
    () =>
      all
        .filter((row) => (project === null || row.project === project) && (state === null || row.state === state))
        .sort(
          (a, b) =>
            DEADLINE_ORDER.indexOf(a.state) - DEADLINE_ORDER.indexOf(b.state) ||
            (a.marginDays ?? 0) - (b.marginDays ?? 0),
        ),
    [all, project, state],
  );
  const chosen = all.find((row) => promiseKey(row) === at) ?? null;
  const choose = (key: string): void => put({ at: key === at ? null : key });
  const projects = [...new Map(all.map((row) => [row.project, `${row.code} ${row.projectName}`]))].sort((a, b) =>
    a[1].localeCompare(b[1]),
  );
  return (
    <div className="beside">
      <div className="min-w-0 flex-1 overflow-auto px-5 py-3" tabIndex={0} role="region" aria-label="All deadlines">
        <div className="flex flex-wrap items-center gap-3 pb-2">
          <h1 className="text-xl">Deadlines</h1>
          <select
            className="select select-sm w-auto"
            aria-label="Project"
            value={project ?? ""}
            onChange={(event) => put({ project: event.target.value })}
          >
            <option value="">all projects</option>
            {projects.map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <select
            className="select select-sm w-auto"
            aria-label="State"
            value={state ?? ""}
            onChange={(event) => put({ state: event.target.value })}
          >
            <option value="">in any state</option>
            {DEADLINE_ORDER.map((each) => (
              <option key={each} value={each}>
                {DEADLINE_WORDS[each as DeadlineState]} ({all.filter((row) => row.state === each).length})
              </option>
            ))}
          </select>
          <span className="ml-auto">
            <CalendarAddress subject="deadlines" words="every deadline that is open, on its day" />
          </span>
        </div>
        {rows.length > 0 && (
          <Foldable name="On a line of time" place="deadlines">
            <PromiseLine rows={rows} dataDate={period?.dataDate ?? null} chosen={at} onChoose={choose} />
          </Foldable>
        )}
        <div className="pt-3">
          <DataTable
            name="Deadlines"
            rows={rows}
            columns={columnsOf(all, choose)}
            rowKey={promiseKey}
            rowClass={(row) => (promiseKey(row) === at ? "bg-base-200" : "")}
            empty={
              all.length === 0
                ? "No activity carries a deadline. Give one in a plan’s Deadline column."
                : "None in that state."
            }
          />
        </div>
      </div>
      {chosen !== null && <PromisePanel key={at} promised={chosen} onClose={() => put({ at: null })} />}
    </div>
  );
}

/** Every deadline of every project: how it stands, on a line of time and in a table, and what lies behind it. */
export function DeadlinesPage() {
  const query = useQuery(deadlinesQuery);
  return <Loaded query={query}>{(all) => <Page all={all} />}</Loaded>;
}
