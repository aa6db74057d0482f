import type { QueuedReport, ReportsEffect } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState, type ReactNode } from "react";
import { Link, useSearchParams } from "react-router";
import { toast } from "sonner";
import { call } from "../shared/api.ts";
import { EffectView } from "../shared/EffectView.tsx";
import { Failure, Loaded } from "../shared/Failure.tsx";
import { countWords, dateWords } from "../shared/words.ts";
import { effectQuery, reportsQuery } from "./queries.ts";
import { remarkWords, reportWords } from "./reportWords.ts";

interface QueueProps {
  readonly reports: readonly QueuedReport[];
  readonly chosen: ReadonlySet<string>;
  readonly onChoose: (ids: readonly string[], on: boolean) => void;
}

/** Reports of one project, each to be ticked; the first tick box takes all of them. */
function Queue({ reports, chosen, onChoose }: QueueProps) {
  const first = reports[0]!;
  const all = reports.every(({ id }) => chosen.has(id));
  return (
    <section className="pb-4">
      <h2 className="flex items-center gap-2 border-b-2 border-current pb-0.5 text-base">
        <input type="checkbox" className="checkbox checkbox-xs" aria-label={`All reports on ${first.projectName}`} checked={all} onChange={(event) => onChoose(reports.map(({ id }) => id), event.target.checked)} />
        <Link className="link-quiet" to={`/projects/${first.project}/plan`}>{first.projectName}</Link>
        <span className="muted font-sans text-sm">{countWords(reports.length, "report", "reports")}</span>
      </h2>
      <table className="ledger" aria-label={`Reports on ${first.projectName}`}>
        <tbody>
          {reports.map((report) => (
            <tr key={report.id}>
              <td className="w-8"><input type="checkbox" className="checkbox checkbox-xs" aria-label={`${report.person}, ${reportWords(report)} on ${report.activityName}`} checked={chosen.has(report.id)} onChange={(event) => onChoose([report.id], event.target.checked)} /></td>
              <td className="whitespace-nowrap">{dateWords(report.date)}</td>
              <td className="whitespace-nowrap">{report.person}</td>
              <td className="font-semibold whitespace-nowrap">{reportWords(report)}</td>
              <td className="max-w-72 truncate" title={report.activityName}>{report.activityName}{report.note !== "" && <span className="muted"> “{report.note}”</span>}{report.remarks.map((remark) => <span key={remarkWords(remark)} className="undecided block text-sm whitespace-normal">{remarkWords(remark)}</span>)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const room = (leftMinutes: number, roomMinutes: number): ReactNode =>
  leftMinutes > roomMinutes ? <span className="adverse">{formatHours(leftMinutes - roomMinutes)} more than fits</span> : <span className="muted">fits</span>;

/** Windows that are held, and what that asks of their people; those that cannot be. */
function Held({ of }: { of: ReportsEffect[number] }) {
  return (
    <ul className="mt-1 text-sm">
      {of.held.map(({ activity, name, finish, load }) => (
        <li key={activity} className="border-b rule py-0.5">
          “{name}” still ends on {dateWords(finish)}
          {load.map(({ person, leftMinutes, roomMinutes }) => <span key={person} className="block pl-3">{person}: {formatHours(leftMinutes)} left in {formatHours(roomMinutes)} of working time, {room(leftMinutes, roomMinutes)}</span>)}
        </li>
      ))}
      {of.lost.map(({ activity, name, why }) => <li key={activity} className="adverse border-b rule py-0.5">“{name}” cannot be held: {why}</li>)}
      {of.held.length === 0 && of.lost.length === 0 && <li className="muted py-0.5">No window of these activities ends later, so there is nothing to hold.</li>}
    </ul>
  );
}

function Decision({ ids, onDone }: { ids: readonly string[]; onDone: () => void }) {
  const client = useQueryClient();
  const [hold, setHold] = useState(false);
  const effect = useQuery({ ...effectQuery(ids, hold), placeholderData: keepPreviousData });
  const [word, setWord] = useState("");
  const decide = useMutation({
    mutationFn: (decision: "accept" | "hold" | "return") => call("POST /api/reports/decision", { body: { ids: [...ids], decision, word } }),
    onSuccess: (_done, decision) => {
      toast(`${countWords(ids.length, "report", "reports")} ${decision === "return" ? "returned" : "accepted; the time is posted"}.`);
      setWord("");
      onDone();
      void client.invalidateQueries();
    },
  });
  const lost = effect.data?.some((of) => of.lost.length > 0) === true;
  return (
    <>
      <h2 className="text-base">Accepting {countWords(ids.length, "report", "reports")} would</h2>
      <fieldset className="flex flex-wrap gap-x-4 pb-1 text-sm">
        <legend className="sr-only">What becomes of the dates</legend>
        <label className="flex items-center gap-1.5"><input type="radio" name="hold" checked={!hold} onChange={() => setHold(false)} />let dates move</label>
        <label className="flex items-center gap-1.5"><input type="radio" name="hold" checked={hold} onChange={() => setHold(true)} />hold the windows</label>
      </fieldset>
      {effect.error !== null && <Failure error={effect.error} />}
      {effect.data === undefined && effect.error === null && <p className="muted text-sm" role="status">Working it out …</p>}
      <div aria-busy={effect.isFetching}>
        {effect.data?.map((of) => (
          <section key={of.project} className="pb-2">
            {effect.data.length > 1 && <h3 className="text-sm">{of.projectName}</h3>}
            {hold && <Held of={of} />}
            <EffectView effect={of.effect} />
          </section>
        ))}
      </div>
      <label className="mt-3 flex flex-col gap-1"><span className="text-sm font-semibold">A word to the sender</span><input className="input input-sm w-full" value={word} placeholder="needed to return" onChange={(event) => setWord(event.target.value)} /></label>
      {decide.error !== null && <Failure error={decide.error} />}
      <div className="mt-2 flex gap-2">
        <button type="button" className="btn btn-primary btn-sm" disabled={decide.isPending || effect.data === undefined || effect.isPlaceholderData || (hold && lost)} onClick={() => decide.mutate(hold ? "hold" : "accept")}>{hold ? "Accept and hold" : "Accept"}</button>
        <button type="button" className="btn btn-sm" disabled={decide.isPending || word.trim() === ""} onClick={() => decide.mutate("return")}>Return</button>
      </div>
    </>
  );
}

function Reports({ reports }: { reports: readonly QueuedReport[] }) {
  const [params] = useSearchParams();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const only = params.get("project");
  const shown = useMemo(() => (only === null ? reports : reports.filter(({ project }) => project === only)), [reports, only]);
  const projects = [...new Set(shown.map(({ project }) => project))];
  const choose = (ids: readonly string[], on: boolean): void => {
    const kept = [...chosen].filter((id) => shown.some((report) => report.id === id));
    setChosen(new Set(on ? [...kept, ...ids] : kept.filter((id) => !ids.includes(id))));
  };
  const ids = shown.filter(({ id }) => chosen.has(id)).map(({ id }) => id);
  return (
    <div className="page grid gap-x-8 lg:grid-cols-[1fr_25rem]">
      <div>
        <div className="flex flex-wrap items-baseline gap-x-4 pb-2">
          <h1 className="text-xl">Time to review</h1>
          {shown.length > 0 && <button type="button" className="btn btn-xs" onClick={() => choose(shown.map(({ id }) => id), ids.length < shown.length)}>{ids.length < shown.length ? "Tick all" : "Tick none"}</button>}
        </div>
        {only !== null && <p className="undecided pb-1 text-sm">Showing one project. <Link className="underline" to="/time">Show all</Link></p>}
        {shown.length === 0 && <p className="muted">Nothing waits. What people send from their desks appears here before it costs money or moves a date.</p>}
        {projects.map((project) => <Queue key={project} reports={shown.filter((report) => report.project === project)} chosen={chosen} onChoose={choose} />)}
      </div>
      <aside aria-label="Effect preview" aria-live="polite" className="lg:sticky lg:top-3 lg:self-start">
        {ids.length > 0 ? <Decision ids={ids} onDone={() => setChosen(new Set())} /> : shown.length > 0 && <p className="muted text-sm">Tick reports to see what accepting them would do to dates, deadlines and cost.</p>}
      </aside>
    </div>
  );
}

/** Time and progress that wait for acceptance, with what accepting would do. */
export function ReviewPage() {
  const query = useQuery(reportsQuery);
  return <Loaded query={query}>{(reports) => <Reports reports={reports} />}</Loaded>;
}
