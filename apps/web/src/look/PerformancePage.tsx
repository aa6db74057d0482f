import type { PerformanceView } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useSearchParams } from "react-router";
import { LimitLink } from "../cycle/BrokenLimits.tsx";
import { useProject } from "../project/useProject.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { Foldable } from "../shared/page/Foldable.tsx";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { dateWords, money } from "../shared/words/words.ts";
import { IndexCurves } from "./IndexCurves.tsx";
import { partColumns, periodColumns, SCHEDULE_COLUMNS } from "./performanceColumns.tsx";
import { performanceQuery } from "./queries.ts";
import { SinceLock } from "./SinceLock.tsx";

/** Where the project is heading, and what is to be explained of it. */
function Outlook({ view, project }: { view: PerformanceView; project: string }) {
  const { forecast, minorDigits: digits } = view;
  return (
    <p className="text-sm">
      <span className="muted">
        As of {dateWords(view.asOf)}, in {view.currency}.
      </span>{" "}
      At completion it will cost {money(forecast.least, digits)} to {money(forecast.most, digits)}, depending on how the
      rest goes; the plan finishes {dateWords(forecast.finish)}, earned schedule points to{" "}
      {dateWords(forecast.esFinish)}.
      {view.broken.length > 0 && (
        <>
          {" "}
          To be explained:{" "}
          {view.broken.map((limit, i) => (
            <span key={limit.rule}>
              {i > 0 && "; "}
              <LimitLink project={project} limit={limit} />
              {limit.explanation !== null && <span className="muted"> “{limit.explanation.words}”</span>}
            </span>
          ))}
          .{" "}
          <Link className="underline" to={`/cycle?step=Explain&project=${project}`}>
            Explain
          </Link>
        </>
      )}
    </p>
  );
}

function Page({ view }: { view: PerformanceView }) {
  const [params, put] = useAddress();
  const look = useProject();
  const { id } = look;
  const own = params.get("alone") === "yes";
  const columns = useMemo(() => partColumns(view, id), [view, id]);
  const overTime = useMemo(
    () => periodColumns({ currency: view.currency, minorDigits: view.minorDigits }, own),
    [view.currency, view.minorDigits, own],
  );
  if (view.project === null)
    return (
      <p className="page muted">
        There is nothing to measure yet: the plan needs to be approved and to have a data date.{" "}
        <Link className="underline" to={`/projects/${id}/approvals`}>
          Go to approvals
        </Link>
      </p>
    );
  return (
    <div className="page flex flex-col gap-4">
      <Outlook view={view} project={id} />
      <SinceLock look={look} />
      <div className="grid gap-x-8 gap-y-3 lg:grid-cols-2">
        <Foldable name="Indices" place="performance">
          <IndexCurves periods={view.periods} />
        </Foldable>
        <div>
          <h2 className="pb-1 text-base">Earned schedule</h2>
          <DataTable
            name="Earned schedule"
            rows={view.earnedSchedules}
            columns={SCHEDULE_COLUMNS}
            rowKey={({ period }) => period}
            empty="Nothing to measure without an approved plan."
          />
        </div>
      </div>
      <section>
        <DataTable
          key={view.by}
          name={`Figures by ${view.kinds.find(({ id: kind }) => kind === view.by)?.name ?? view.by}`}
          rows={view.parts}
          columns={columns}
          rowKey={({ key }) => key}
          totalName="The project"
          empty="Nothing to split."
          tools={
            <label className="flex items-center gap-1 text-sm">
              by
              <select
                className="select select-sm w-auto"
                aria-label="Split by"
                value={view.by}
                onChange={(event) => put({ by: event.target.value })}
              >
                {view.kinds.map(({ id: kind, name }) => (
                  <option key={kind} value={kind}>
                    {name.toLowerCase()}
                  </option>
                ))}
              </select>
            </label>
          }
        />
      </section>
      <section>
        <DataTable
          key={String(own)}
          name="Periods"
          rows={view.periods}
          columns={overTime}
          rowKey={({ number }) => String(number)}
          {...(own ? { totalName: "Together" } : {})}
          empty="No period has been issued yet."
          tools={
            <label className="flex items-center gap-1.5 text-sm">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={own}
                onChange={(event) => put({ alone: event.target.checked ? "yes" : null })}
              />
              each period alone
            </label>
          }
        />
      </section>
    </div>
  );
}

/** A project's figures split by people, roles, categories and own fields, over the periods, and in time. */
export function PerformancePage() {
  const { id } = useProject();
  const [params] = useSearchParams();
  const query = useQuery(performanceQuery(id, params.get("by") ?? "person"));
  return <Loaded query={query}>{(view) => <Page view={view} />}</Loaded>;
}
