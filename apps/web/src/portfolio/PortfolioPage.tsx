import type { Portfolio, ProjectLine } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { periodQuery } from "../cycle/queries.ts";
import { CycleTools } from "../cycle/CycleTools.tsx";
import { DataTable } from "../shared/DataTable.tsx";
import { Loaded } from "../shared/Failure.tsx";
import { holds, useMe } from "../shared/session.ts";
import { countWords, dateWords } from "../shared/words.ts";
import { PORTFOLIO_COLUMNS } from "./portfolioColumns.tsx";
import { portfolioQuery } from "./queries.ts";

/** What the steps of the period bar lead to: the projects in which something is still open. */
const SHOWN: Record<string, { words: string; holds: (line: ProjectLine, dataDate: string | null, period: number | null) => boolean }> = {
  missing: { words: "with someone who has not reported", holds: ({ missing }) => missing.length > 0 },
  behind: { words: "whose data date is behind the period's", holds: ({ summary }, dataDate) => summary.baseline !== null && (summary.dataDate ?? "") < (dataDate ?? "") },
  unissued: { words: "not issued for this period", holds: ({ summary, issuedNumber }, _dataDate, period) => summary.baseline !== null && issuedNumber !== period },
};

function Narrowed({ words, count }: { words: string; count: number }) {
  return <p className="pb-1 text-sm undecided">Showing {count} {count === 1 ? "project" : "projects"} {words}. <Link to="/" className="underline">Show all</Link></p>;
}

function Lines({ portfolio }: { portfolio: Portfolio }) {
  const me = useMe();
  const [params] = useSearchParams();
  const { data: period } = useQuery(periodQuery);
  const narrowed = SHOWN[params.get("show") ?? ""];
  const rows = narrowed === undefined ? portfolio.projects : portfolio.projects.filter((line) => narrowed.holds(line, period?.dataDate ?? null, period?.number ?? null));
  const names = new Map(portfolio.programmes.map(({ id, name }) => [id, name]));
  const inOrder = [...portfolio.programmes.map(({ id }) => id), null].flatMap((programme) => rows.filter((line) => line.programme === programme));
  const dates = [...new Set(portfolio.projects.map(({ summary }) => summary.dataDate).filter((date) => date !== null))];
  const currencies = [...new Set(portfolio.projects.map(({ summary }) => summary.currency))];
  return (
    <div className="page">
      <div className="flex flex-wrap items-baseline gap-x-4 pb-2">
        <h1 className="text-xl">{portfolio.name}</h1>
        <p className="muted text-sm">
          {countWords(portfolio.projects.length, "project", "projects")}{currencies.length === 1 && ` · amounts in ${currencies[0]}`}
          {dates.length === 1 && ` · figures as of ${dateWords(dates[0]!)}`}
        </p>
        <div className="ml-auto">{holds(me, "controller") && <CycleTools />}</div>
      </div>
      {narrowed !== undefined && <Narrowed words={narrowed.words} count={rows.length} />}
      <DataTable
        name="Projects"
        rows={inOrder}
        columns={PORTFOLIO_COLUMNS}
        rowKey={({ id }) => id}
        group={(line) => (line.programme === null ? "Outside the programmes" : (names.get(line.programme) ?? ""))}
        totalName="All projects"
        empty={narrowed !== undefined ? <p>None: nothing is open here.</p> : <p>No project is here yet. {holds(me, "controller", "projectManager") ? <><Link className="underline" to="/import">Bring a plan</Link> from a workbook, CSV files or a plan bundle; people who sign in are added under <Link className="underline" to="/settings">Settings</Link>.</> : "A project manager brings the first plan."}</p>}
      />
    </div>
  );
}

export function PortfolioPage() {
  const query = useQuery(portfolioQuery);
  return <Loaded query={query}>{(portfolio) => <Lines portfolio={portfolio} />}</Loaded>;
}
