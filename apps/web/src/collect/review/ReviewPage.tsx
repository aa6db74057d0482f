import type { QueuedReport } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { useAddress } from "../../shared/page/useAddress.ts";
import { countWords, dateWords } from "../../shared/words/words.ts";
import { Decision } from "./Decision.tsx";
import { reportsQuery } from "../queries.ts";
import { shiftDays } from "../weekSums.ts";
import { remarkWords, reportWords } from "../reportWords.ts";

interface QueueProps {
  readonly reports: readonly QueuedReport[];
  readonly chosen: ReadonlySet<string>;
  readonly onChoose: (ids: readonly string[], on: boolean) => void;
}

/** Reports of one project, each to be selected; the first box takes all of them. */
function Queue({ reports, chosen, onChoose }: QueueProps) {
  const first = reports[0]!;
  const all = reports.every(({ id }) => chosen.has(id));
  return (
    <section className="pb-4">
      <h2 className="flex items-center gap-2 border-b-2 border-current pb-0.5 text-base">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          aria-label={`All reports on ${first.projectName}`}
          checked={all}
          onChange={(event) =>
            onChoose(
              reports.map(({ id }) => id),
              event.target.checked,
            )
          }
        />
        <Link className="link-quiet" to={`/projects/${first.project}/plan`}>
          {first.projectName}
        </Link>
        <span className="muted font-sans text-sm">{countWords(reports.length, "report", "reports")}</span>
      </h2>
      <div className="overflow-x-auto">
        <table className="ledger table-fixed min-w-[44rem]" aria-label={`Reports on ${first.projectName}`}>
          <tbody>
            {reports.map((report) => (
              <tr key={report.id}>
                <td className="w-8">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs"
                    aria-label={`${report.person}, ${reportWords(report)} on ${report.activityName}`}
                    checked={chosen.has(report.id)}
                    onChange={(event) => onChoose([report.id], event.target.checked)}
                  />
                </td>
                <td className="w-28 whitespace-nowrap">{dateWords(report.date)}</td>
                <td className="w-40 truncate" title={report.person}>
                  {report.person}
                </td>
                <td className="w-40 font-semibold" title={reportWords(report)}>
                  {reportWords(report)}
                </td>
                <td className="truncate" title={report.activityName}>
                  {report.activityName}
                  {report.note !== "" && <span className="muted"> “{report.note}”</span>}
                  {report.remarks.map((remark) => (
                    <span key={remarkWords(remark)} className="undecided block text-sm whitespace-normal">
                      {remarkWords(remark)}
                    </span>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** By what the reports are narrowed, in the address: each with the key and the words of a report. */
const NARROWED = [
  {
    by: "project",
    name: "Project",
    all: "all projects",
    of: ({ project, projectName }: QueuedReport) => ({ key: project, words: projectName }),
  },
  { by: "person", name: "Person", all: "everyone", of: ({ person }: QueuedReport) => ({ key: person, words: person }) },
  { by: "day", name: "Day", all: "all days", of: ({ date }: QueuedReport) => ({ key: date, words: dateWords(date) }) },
] as const;

/** Choices by which the reports are narrowed; each offers what the others leave, with its count. */
function Narrow({
  reports,
  wanted,
  onPut,
}: {
  reports: readonly QueuedReport[];
  wanted: Readonly<Record<string, string | null>>;
  onPut: (changes: Record<string, string | null>) => void;
}) {
  return NARROWED.map(({ by, name, all, of }) => {
    const left = reports.filter((report) =>
      NARROWED.every(
        (other) => other.by === by || wanted[other.by] == null || other.of(report).key === wanted[other.by],
      ),
    );
    const counts = new Map<string, { words: string; count: number }>();
    for (const { key, words } of left.map(of)) counts.set(key, { words, count: (counts.get(key)?.count ?? 0) + 1 });
    const offered = [...counts].sort(([a, one], [b, other]) =>
      by === "day" ? a.localeCompare(b) : one.words.localeCompare(other.words),
    );
    return (
      <label key={by} className="flex items-center gap-1.5 text-sm">
        {name}
        <select
          className="select select-sm max-w-48"
          value={wanted[by] ?? ""}
          onChange={(event) => onPut({ [by]: event.target.value === "" ? null : event.target.value })}
        >
          <option value="">{all}</option>
          {wanted[by] != null && !counts.has(wanted[by]) && <option value={wanted[by]}>{wanted[by]} (none)</option>}
          {offered.map(([key, { words, count }]) => (
            <option key={key} value={key}>
              {words} ({count})
            </option>
          ))}
        </select>
      </label>
    );
  });
}

function Reports({ reports }: { reports: readonly QueuedReport[] }) {
  const [params, put] = useAddress();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [project, person, day, week] = [
    params.get("project"),
    params.get("person"),
    params.get("day"),
    params.get("week"),
  ];
  const wanted = { project, person, day };
  const ofWeek = useMemo(
    () => (week === null ? reports : reports.filter(({ date }) => date >= week && date <= shiftDays(week, 6))),
    [reports, week],
  );
  const shown = useMemo(
    () =>
      ofWeek.filter(
        (report) =>
          (project === null || report.project === project) &&
          (person === null || report.person === person) &&
          (day === null || report.date === day),
      ),
    [ofWeek, project, person, day],
  );
  const projects = [...new Set(shown.map((report) => report.project))];
  const choose = (ids: readonly string[], on: boolean): void => {
    const kept = [...chosen].filter((id) => shown.some((report) => report.id === id));
    setChosen(new Set(on ? [...kept, ...ids] : kept.filter((id) => !ids.includes(id))));
  };
  const selected = shown.filter(({ id }) => chosen.has(id));
  const isNarrowed = project !== null || person !== null || day !== null || week !== null;
  return (
    <div className="page grid gap-x-8 lg:grid-cols-[1fr_25rem]">
      <div className="min-w-0">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-2">
          <h1 className="text-xl">Time to review</h1>
          {(reports.length > 0 || isNarrowed) && <Narrow reports={ofWeek} wanted={wanted} onPut={put} />}
          {week !== null && <span className="undecided text-sm">in the week of {dateWords(week)}</span>}
          {shown.length > 0 && (
            <button
              type="button"
              className="btn btn-xs"
              onClick={() =>
                choose(
                  shown.map(({ id }) => id),
                  selected.length < shown.length,
                )
              }
            >
              {selected.length < shown.length ? `Select all ${shown.length}` : "Select none"}
            </button>
          )}
          {isNarrowed && (
            <button
              type="button"
              className="btn btn-xs"
              onClick={() => put({ project: null, person: null, day: null, week: null })}
            >
              Show all {reports.length}
            </button>
          )}
        </div>
        {shown.length === 0 &&
          (reports.length > 0 ? (
            <p className="muted">
              Nothing waits here; {countWords(reports.length, "report does", "reports do")} elsewhere.
            </p>
          ) : (
            <p className="muted">
              Nothing waits. What people send from their desks appears here before it costs money or moves a date.
            </p>
          ))}
        {projects.map((id) => (
          <Queue key={id} reports={shown.filter((report) => report.project === id)} chosen={chosen} onChoose={choose} />
        ))}
      </div>
      <aside
        aria-label="Effect preview"
        aria-live="polite"
        className="lg:sticky lg:top-3 lg:flex lg:max-h-[calc(100dvh-8.5rem)] lg:flex-col lg:self-start"
      >
        {selected.length > 0 ? (
          <Decision reports={selected} onDone={() => setChosen(new Set())} />
        ) : (
          shown.length > 0 && (
            <p className="muted text-sm">
              Select reports to see what accepting them would do to dates, deadlines and cost.
            </p>
          )
        )}
      </aside>
    </div>
  );
}

/** Time and progress that wait for acceptance, with what accepting would do. */
export function ReviewPage() {
  const query = useQuery(reportsQuery);
  return <Loaded query={query}>{(reports) => <Reports reports={reports} />}</Loaded>;
}
