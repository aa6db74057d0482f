import type { ChancesRequest, ChancesView } from "@chronometra/contract";
import { RANGE_CLASSES, type RangeClass } from "@chronometra/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useSearchParams } from "react-router";
import { useProject } from "../project/useProject.ts";
import { usePlanChange } from "../resources/stored/usePlanChange.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { DataTable } from "../shared/table/DataTable.tsx";
import { Foldable } from "../shared/page/Foldable.tsx";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { countWords, dateWords, money } from "../shared/words/words.ts";
import { promiseColumns, varyingColumns } from "./chancesColumns.tsx";
import { askedIn, chanceTone, chanceWords, CLASS_WORDS } from "./chanceWords.ts";
import { chancesQuery, chancesShareQuery } from "./queries.ts";
import { RisksPart } from "./RisksPart.tsx";
import { Spreads } from "./Spreads.tsx";

function Settings({ asked }: { asked: ChancesRequest }) {
  const [, put] = useAddress();
  const field = (
    label: string,
    name: string,
    value: number,
    least: number,
    most: number,
    hint: string,
    width: string,
  ) => (
    <label className="flex items-center gap-1.5" title={hint}>
      {label}
      <CommitField
        label={label}
        width={width}
        numeric
        value={String(value)}
        onCommit={(text) => {
          const number = Number(text);
          if (!Number.isInteger(number) || number < least || number > most)
            return `A whole number from ${least} to ${most}.`;
          put({ [name]: text.trim() });
          return null;
        }}
      />
    </label>
  );
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
      {field("Runs", "runs", asked.runs, 100, 100_000, "How many times the project is played through", "w-20")}
      {field("Seed", "seed", asked.seed, 0, 2_147_483_647, "The same seed gives the same answer", "w-20")}
      {field(
        "Correlation, %",
        "together",
        Math.round(asked.correlation * 100),
        0,
        100,
        "Correlation of durations: 0 each alone, 100 all as one",
        "w-16",
      )}
      <label className="flex items-center gap-1.5">
        Without a range of their own
        <select
          className="select select-sm w-44"
          value={asked.otherwise}
          onChange={(event) => put({ otherwise: event.target.value })}
        >
          {(Object.keys(RANGE_CLASSES) as RangeClass[]).map((each) => (
            <option key={each} value={each}>
              {CLASS_WORDS[each]}
              {each === "exact" ? "" : `, ${RANGE_CLASSES[each].low} to ${RANGE_CLASSES[each].high}%`}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

function Running({ project, asked }: { project: string; asked: ChancesRequest }) {
  const client = useQueryClient();
  const { data: share } = useQuery(chancesShareQuery(project, asked));
  return (
    <p className="flex items-center gap-2 text-sm" role="status">
      Playing the project through {asked.runs} times …{" "}
      <progress className="h-2 w-48 accent-(--color-accent)" max={1} value={share} aria-label="Played through so far" />
      <button
        type="button"
        className="btn btn-xs"
        onClick={() => void client.cancelQueries({ queryKey: chancesQuery(project, asked).queryKey })}
      >
        Cancel
      </button>
    </p>
  );
}

const SORT = { id: "sensitivity", desc: true };

/** When it finishes and what it costs, and how likely the plan is kept, in words. */
function Likely({ view, project }: { view: ChancesView; project: string }) {
  const { finish, cost, both, minorDigits: digits, currency } = view;
  const amount = (value: number): string => `${money(value, digits)} ${currency}`;
  return (
    <>
      <p className="figure pt-2 text-lg">
        It finishes by {dateWords(finish.p50)} in 50 of 100 runs, by {dateWords(finish.p80)} in 80 of 100.
      </p>
      <p className="text-sm">
        The plan’s{" "}
        <Link className="underline" to={`/projects/${project}/plan?lit=longest`}>
          {dateWords(finish.planned)}
        </Link>{" "}
        is kept <Toned tone={chanceTone(finish.chance)}>{chanceWords(finish.chance)}</Toned>. It costs up to{" "}
        {amount(cost.p50)} in 50 of 100, up to {amount(cost.p80)} in 80 of 100; what the plan adds up to,{" "}
        <Link className="underline" to={`/projects/${project}`}>
          {amount(cost.planned)}
        </Link>
        , is kept <Toned tone={chanceTone(cost.chance)}>{chanceWords(cost.chance)}</Toned>. Both are kept{" "}
        <Toned tone={chanceTone(both.chance)}>{chanceWords(both.chance)}</Toned>
        {both.correlation !== null && `; their correlation is ${both.correlation.toFixed(2)}`}.
      </p>
    </>
  );
}

interface AnswerProps {
  readonly view: ChancesView;
  readonly change: ReturnType<typeof usePlanChange>;
  readonly mayEdit: boolean;
  readonly project: string;
}

function Answer({ view, change, mayEdit, project }: AnswerProps) {
  const columns = varyingColumns(view, project, mayEdit, change);
  const moving = view.activities.filter(({ criticality }) => criticality > 0);
  const still = view.activities.filter(({ criticality }) => criticality === 0);
  return (
    <>
      <Likely view={view} project={project} />
      {view.finishes.length === 1 && view.costs.length === 1 ? (
        <p className="muted pt-2 text-sm">Every run is the plan itself: nothing varies.</p>
      ) : (
        <Foldable name="Spread" place="chances">
          <Spreads view={view} />
        </Foldable>
      )}
      <h2 className="pt-3 text-base">Promises</h2>
      <DataTable
        name="Chances of deadlines"
        rows={view.deadlines}
        columns={promiseColumns(project)}
        rowKey={({ id }) => id}
        empty="No activity has a deadline. Give one in the plan's Deadline column."
      />
      <RisksPart view={view} mayEdit={mayEdit} change={change} />
      <h2 className="pt-3 text-base">What moves the finish</h2>
      <DataTable
        name="What moves the finish"
        rows={moving}
        columns={columns}
        rowKey={({ id }) => id}
        sort={SORT}
        empty={
          view.activities.length === 0
            ? "Nothing varies: every duration is exact. Give activities a range, or select one for those without."
            : "What varies was never on the longest path: nothing moves the finish."
        }
      />
      {still.length > 0 && (
        <details className="pt-2">
          <summary className="cursor-pointer text-sm">
            {countWords(still.length, "activity varies but was", "activities vary but were")} never on the longest path
          </summary>
          <DataTable
            name="Never on the longest path"
            rows={still}
            columns={columns.filter(({ id }) => id !== "sensitivity" && id !== "criticality")}
            rowKey={({ id }) => id}
            empty=""
          />
        </details>
      )}
    </>
  );
}

/** How likely a project's dates, costs and promises are: played through many times, with ranges and risks. */
export function ChancesPage() {
  const { id: project, mayEdit, revision } = useProject();
  const [params] = useSearchParams();
  const asked = useMemo(() => askedIn(params), [params]);
  const query = useQuery(chancesQuery(project, asked));
  const change = usePlanChange({ id: project, revision: query.data?.revision ?? revision });
  return (
    <div className="page">
      <Settings asked={asked} />
      {query.isFetching ? (
        <Running project={project} asked={asked} />
      ) : (
        query.data === undefined &&
        query.error === null && (
          <p className="pt-2 text-sm">
            Cancelled.{" "}
            <button type="button" className="btn btn-xs" onClick={() => void query.refetch()}>
              Play it through
            </button>
          </p>
        )
      )}
      {query.error !== null && <Failure error={query.error} onAgain={() => void query.refetch()} />}
      {query.data !== undefined && (
        <div aria-busy={query.isFetching}>
          <Answer view={query.data} change={change} mayEdit={mayEdit} project={project} />
        </div>
      )}
    </div>
  );
}
