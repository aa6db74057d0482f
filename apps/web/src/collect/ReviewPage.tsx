import type { Report } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { toast } from "sonner";
import { call } from "../shared/api.ts";
import { EffectView } from "../shared/EffectView.tsx";
import { Failure, Loaded } from "../shared/Failure.tsx";
import { countWords, dateWords } from "../shared/words.ts";
import { effectQuery, reportsQuery } from "./queries.ts";
import { reportWords } from "./reportWords.ts";

interface QueueProps {
  readonly reports: readonly Report[];
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
              <td className="max-w-72 truncate" title={report.activityName}>{report.activityName}{report.note !== "" && <span className="muted"> “{report.note}”</span>}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Decision({ ids, onDone }: { ids: readonly string[]; onDone: () => void }) {
  const client = useQueryClient();
  const effect = useQuery(effectQuery(ids));
  const [word, setWord] = useState("");
  const decide = useMutation({
    mutationFn: (decision: "accept" | "return") => call("POST /api/reports/decision", { body: { ids: [...ids], decision, word } }),
    onSuccess: (_done, decision) => {
      toast(`${countWords(ids.length, "report", "reports")} ${decision === "accept" ? "accepted; the time is posted" : "returned"}.`);
      setWord("");
      onDone();
      void client.invalidateQueries();
    },
  });
  return (
    <>
      <h2 className="text-base">Accepting {countWords(ids.length, "report", "reports")} would</h2>
      {effect.error !== null && <Failure error={effect.error} />}
      {effect.data === undefined ? effect.error === null && <p className="muted text-sm" role="status">Working it out …</p> : <EffectView effect={effect.data} />}
      <label className="mt-3 flex flex-col gap-1"><span className="text-sm font-semibold">A word to the sender</span><input className="input input-sm w-full" value={word} placeholder="needed to return" onChange={(event) => setWord(event.target.value)} /></label>
      {decide.error !== null && <Failure error={decide.error} />}
      <div className="mt-2 flex gap-2">
        <button type="button" className="btn btn-primary btn-sm" disabled={decide.isPending || effect.data === undefined} onClick={() => decide.mutate("accept")}>Accept</button>
        <button type="button" className="btn btn-sm" disabled={decide.isPending || word.trim() === ""} onClick={() => decide.mutate("return")}>Return</button>
      </div>
    </>
  );
}

function Reports({ reports }: { reports: readonly Report[] }) {
  const [params] = useSearchParams();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const only = params.get("project");
  const shown = useMemo(() => (only === null ? reports : reports.filter(({ project }) => project === only)), [reports, only]);
  const projects = [...new Set(shown.map(({ project }) => project))];
  const choose = (ids: readonly string[], on: boolean): void => {
    const project = shown.find(({ id }) => id === ids[0])!.project;
    // An effect is one project's; choosing in another begins anew there.
    const kept = [...chosen].filter((id) => shown.some((report) => report.id === id && report.project === project));
    setChosen(new Set(on ? [...kept, ...ids] : kept.filter((id) => !ids.includes(id))));
  };
  const ids = shown.filter(({ id }) => chosen.has(id)).map(({ id }) => id);
  return (
    <div className="page grid gap-x-8 lg:grid-cols-[1fr_25rem]">
      <div>
        <h1 className="pb-2 text-xl">Time to review</h1>
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
