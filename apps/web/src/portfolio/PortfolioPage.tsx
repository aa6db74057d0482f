import type { Paths, PeriodBar, Portfolio, ProjectLine } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useMemo, useState } from "react";
import { Link } from "react-router";
import { CycleTools } from "../cycle/CycleTools.tsx";
import { periodQuery } from "../cycle/queries.ts";
import { DataTable, type TableLook } from "../shared/table/DataTable.tsx";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { InView } from "../shared/charts/InView.tsx";
import { keepPreference, preference } from "../shared/session/preferences.ts";
import { holds, useMe } from "../shared/session/session.ts";
import { SummedNote, toSummedIn } from "../shared/table/SummedNote.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { countWords } from "../shared/words/words.ts";
import { datesWords } from "../project/logLines.ts";
import { Log } from "./Log.tsx";
import { portfolioColumns } from "./portfolioColumns.tsx";
import { GroupBy } from "./grouped/GroupBy.tsx";
import { groupNames, inGroupOrder, levelsIn } from "./grouped/grouping.ts";
import { pathsQuery, portfolioQuery } from "../project/queries.ts";
import { SaysDialog } from "./SaysDialog.tsx";
import { closedOnes, openOnes } from "../project/openOnes.ts";
import { isBehind } from "../project/isBehind.ts";
import { commonOf } from "../project/together.ts";
import { SpiCpiPlot } from "./SpiCpiPlot.tsx";
import { reachInWords } from "../project/programmeTree.ts";

/** What the steps of the period bar lead to: the projects in which something is still open. */
const SHOWN: Record<
  string,
  { words: string; holds: (line: ProjectLine, dataDate: string | null, period: number | null) => boolean }
> = {
  missing: { words: "with someone who has not reported", holds: ({ missing }) => missing.length > 0 },
  behind: {
    words: "whose data date is behind the period's",
    holds: isBehind,
  },
  unissued: {
    words: "not issued for this period",
    holds: ({ summary, issuedNumber, closed }, _dataDate, period) =>
      !closed && summary.baseline !== null && issuedNumber !== period,
  },
};
/** What the link to those that are closed leads to: they are in no sum of the others. */
const CLOSED = "closed";

const NO_PATHS: Paths = {};

const FOLDED = "portfolio.folded";
/** Says in the address that every column is shown; without it those are hidden that are at first. */
const NO_COLUMNS = "none";

/** What to do where there is no project yet. */
function NothingYet() {
  const me = useMe();
  return (
    <p>
      No project is here yet.{" "}
      {holds(me, "controller", "projectManager") ? (
        <>
          <Link className="underline" to="/begin">
            Begin a project
          </Link>{" "}
          in three steps, or{" "}
          <Link className="underline" to="/import">
            bring a plan
          </Link>{" "}
          from a workbook, CSV files or a plan bundle; people who sign in are added under{" "}
          <Link className="underline" to="/set-up/accounts">
            Accounts
          </Link>
          .
        </>
      ) : (
        "A project manager brings the first plan."
      )}
    </p>
  );
}

/** How many projects there are, as of when, and what their amounts are in; and how many are closed besides. */
function Facts({ portfolio, closed }: { portfolio: Portfolio; closed: number }) {
  const [params, put] = useAddress();
  const reach = reachInWords(useMe(), portfolio.programmes);
  const { projects, on } = portfolio;
  const currencies = [...new Set(projects.map(({ summary }) => summary.currency))];
  const measured = projects.filter(({ summary }) => summary.figures !== null);
  const isDated = projects.some(({ summary }) => summary.dataDate !== null);
  return (
    <>
      <p className="muted text-sm">
        {countWords(projects.length, "project", "projects")}
        {reach !== null && ` · you see ${reach}`}
        {currencies.length === 1 && ` · amounts in ${currencies[0]}`}
        {isDated && ` · figures ${datesWords(projects)}`}
        {closed > 0 && params.get("show") !== CLOSED && (
          <>
            {" · "}
            <button type="button" className="underline cursor-pointer" onClick={() => put({ show: CLOSED })}>
              {closed} closed
            </button>
          </>
        )}
      </p>
      {currencies.length > 1 && (
        <p className="text-sm">
          <SummedNote money={toSummedIn(commonOf(measured, portfolio), on)} />
        </p>
      )}
    </>
  );
}

/** What someone may begin here. */
function Begin() {
  const me = useMe();
  return (
    <>
      {holds(me, "controller", "projectManager") && (
        <Link className="btn btn-sm" to="/import">
          Bring a plan
        </Link>
      )}
      {holds(me, "controller") && <CycleTools />}
    </>
  );
}

const sortIn = (text: string | null): TableLook["sort"] =>
  text === null ? null : { id: text.replace(/^-/, ""), desc: text.startsWith("-") };
const sortText = (sort: TableLook["sort"]): string | null =>
  sort === null ? null : `${sort.desc ? "-" : ""}${sort.id}`;

interface NothingProps {
  readonly onlyClosed: boolean;
  readonly isNarrowed: boolean;
  readonly portfolio: Portfolio;
}

/** Why the table is empty. */
function Nothing({ onlyClosed, isNarrowed, portfolio }: NothingProps) {
  if (onlyClosed) return <p>No project is closed.</p>;
  if (isNarrowed) return <p>None: nothing is open here.</p>;
  return portfolio.projects.length > 0 ? <p>Every project is closed.</p> : <NothingYet />;
}

interface ProjectsProps {
  readonly portfolio: Portfolio;
  readonly period: PeriodBar | undefined;
  readonly paths: Paths;
}

/** Every project with its figures, those that the address asks for; its look is kept there too. */
function Projects({ portfolio, period, paths }: ProjectsProps) {
  const [params, put] = useAddress();
  const [open, setOpen] = useState<ProjectLine | null>(null);
  const onlyClosed = params.get("show") === CLOSED;
  const narrowed = SHOWN[params.get("show") ?? ""];
  const byText = params.get("by");
  const levels = useMemo(() => levelsIn(byText, portfolio.fields), [byText, portfolio.fields]);
  // What the table sums is in the money of those that it is of, open or closed.
  const table = useMemo(() => (onlyClosed ? closedOnes(portfolio) : openOnes(portfolio)), [portfolio, onlyClosed]);
  const rows = useMemo(() => {
    const [dataDate, number] = [period?.dataDate ?? null, period?.number ?? null];
    const shown = table.projects.filter((line) => narrowed?.holds(line, dataDate, number) ?? true);
    return inGroupOrder(table, shown, levels);
  }, [table, narrowed, period, levels]);
  const columns = useMemo(() => portfolioColumns(table, paths, setOpen), [table, paths]);
  const onLook = ({ sort, filter, hidden }: TableLook): void =>
    put({ sort: sortText(sort), find: filter, without: hidden.length === 0 ? NO_COLUMNS : hidden.join(".") });
  return (
    <>
      {(narrowed !== undefined || onlyClosed) && (
        <p className="pb-1 text-sm undecided">
          Showing {countWords(rows.length, "project", "projects")}{" "}
          {narrowed?.words ?? "closed, which no other sum counts"}.{" "}
          <button type="button" className="underline cursor-pointer" onClick={() => put({ show: null })}>
            Show all
          </button>
        </p>
      )}
      <InView pixels={rows.length * 26}>
        <DataTable
          name="Projects"
          rows={rows}
          columns={columns}
          rowKey={({ id }) => id}
          group={groupNames(portfolio, levels)}
          totalName={onlyClosed ? "Closed projects" : "All projects"}
          sort={sortIn(params.get("sort")) ?? undefined}
          filter={params.get("find") ?? undefined}
          hidden={params.get("without")?.split(".")}
          onLook={onLook}
          tools={<GroupBy levels={levels} fields={portfolio.fields} onBy={(next) => put({ by: next })} />}
          empty={<Nothing onlyClosed={onlyClosed} isNarrowed={narrowed !== undefined} portfolio={portfolio} />}
        />
      </InView>
      {open !== null && <SaysDialog line={open} onClose={() => setOpen(null)} />}
    </>
  );
}

function Page({ portfolio }: { portfolio: Portfolio }) {
  // The page is drawn without these first, and with them in slices, so that it answers meanwhile.
  const period = useDeferredValue(useQuery(periodQuery).data);
  const paths = useDeferredValue(useQuery(pathsQuery).data) ?? NO_PATHS;
  const [folded, setFolded] = useState(preference(FOLDED) === "yes");
  const open = useMemo(() => openOnes(portfolio), [portfolio]);
  const hasProjects = open.projects.length > 0;
  const fold = (now: boolean): void => {
    setFolded(now);
    keepPreference(FOLDED, now ? "yes" : "no");
  };
  return (
    <div className="page">
      <div className="flex flex-wrap items-baseline gap-x-4 pb-1">
        <h1 className="text-xl">{portfolio.name}</h1>
        <Facts portfolio={open} closed={portfolio.projects.length - open.projects.length} />
        <div className="ml-auto flex flex-wrap items-center gap-1">
          {hasProjects && (
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              aria-expanded={!folded}
              onClick={() => fold(!folded)}
            >
              {folded ? "Show the log" : "Fold the log"}
            </button>
          )}
          <Begin />
        </div>
      </div>
      {!folded && hasProjects && (
        <div className="grid gap-x-8 pb-3 lg:grid-cols-[3fr_2fr]">
          <Log portfolio={open} dataDate={period?.dataDate ?? null} />
          <SpiCpiPlot projects={open.projects} paths={paths} />
        </div>
      )}
      <Projects portfolio={portfolio} period={period} paths={paths} />
    </div>
  );
}

/** The portfolio: what moved, breaks, costs and is missing, in sentences; then every project with its figures. */
export function PortfolioPage() {
  const query = useQuery(portfolioQuery);
  return <Loaded query={query}>{(portfolio) => <Page portfolio={portfolio} />}</Loaded>;
}
