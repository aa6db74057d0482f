import type { Portfolio, ProjectLine } from "@chronometra/contract";
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
import { ownValueWords } from "./OwnFieldCell.tsx";
import { portfolioColumns } from "./portfolioColumns.tsx";
import { inTreeOrder, pathOfProgramme } from "./programmeTree.ts";
import { pathsQuery, portfolioQuery } from "../project/queries.ts";
import { SaysDialog } from "./SaysDialog.tsx";
import { commonOf } from "../project/together.ts";
import { SpiCpiPlot } from "./SpiCpiPlot.tsx";

/** What the steps of the period bar lead to: the projects in which something is still open. */
const SHOWN: Record<
  string,
  { words: string; holds: (line: ProjectLine, dataDate: string | null, period: number | null) => boolean }
> = {
  missing: { words: "with someone who has not reported", holds: ({ missing }) => missing.length > 0 },
  behind: {
    words: "whose data date is behind the period's",
    holds: ({ summary, closed }, dataDate) =>
      !closed && summary.baseline !== null && (summary.dataDate ?? "") < (dataDate ?? ""),
  },
  unissued: {
    words: "not issued for this period",
    holds: ({ summary, issuedNumber, closed }, _dataDate, period) =>
      !closed && summary.baseline !== null && issuedNumber !== period,
  },
};

/** The names of the groups that a project stands in, the outermost first. */
function groupOf(portfolio: Portfolio, by: string): ((line: ProjectLine) => string | readonly string[]) | undefined {
  if (by === "none") return undefined;
  if (by === "manager") return ({ manager }) => manager;
  const field = portfolio.fields.find(({ id }) => `own-${id}` === by);
  if (field !== undefined)
    return ({ values }) => ownValueWords(field, values[field.id]) || `no ${field.name.toLowerCase()}`;
  return ({ programme }) => pathOfProgramme(portfolio.programmes, programme);
}

/** Projects so that those of one group come together, in the order of the tree or of the groups' names. */
function inOrder(portfolio: Portfolio, rows: readonly ProjectLine[], by: string): readonly ProjectLine[] {
  if (by === "none") return rows;
  if (by === "programme")
    return [...inTreeOrder(portfolio.programmes).map(({ programme: { id } }) => id as string | null), null].flatMap(
      (programme) => rows.filter((line) => line.programme === programme),
    );
  const group = groupOf(portfolio, by)!;
  return [...rows].sort((a, b) => String(group(a)).localeCompare(String(group(b))));
}

const FOLDED = "portfolio.folded";
/** Says in the address that every column is shown; without it those are hidden that are at first. */
const NO_COLUMNS = "none";

interface GroupByProps {
  readonly by: string;
  readonly fields: Portfolio["fields"];
  readonly onBy: (by: string | null) => void;
}

/** By what the projects are grouped. */
function GroupBy({ by, fields, onBy }: GroupByProps) {
  return (
    <label className="flex items-center gap-1 text-sm">
      by
      <select
        className="select select-sm w-auto"
        aria-label="Group projects by"
        value={by}
        onChange={(event) => onBy(event.target.value === "programme" ? null : event.target.value)}
      >
        <option value="programme">programme</option>
        <option value="manager">manager</option>
        {fields.map(({ id, name }) => (
          <option key={id} value={`own-${id}`}>
            {name.toLowerCase()}
          </option>
        ))}
        <option value="none">nothing</option>
      </select>
    </label>
  );
}

/** What to do where there is no project yet. */
function NothingYet() {
  const me = useMe();
  return (
    <p>
      No project is here yet.{" "}
      {holds(me, "controller", "projectManager") ? (
        <>
          <Link className="underline" to="/import">
            Bring a plan
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

function Page({ portfolio }: { portfolio: Portfolio }) {
  const me = useMe();
  const [params, put] = useAddress();
  // The page is drawn without these first, and with them in slices, so that it answers meanwhile.
  const period = useDeferredValue(useQuery(periodQuery).data);
  const paths = useDeferredValue(useQuery(pathsQuery).data);
  const [open, setOpen] = useState<ProjectLine | null>(null);
  const [folded, setFolded] = useState(preference(FOLDED) === "yes");
  const narrowed = SHOWN[params.get("show") ?? ""];
  const by = params.get("by") ?? "programme";
  const rows =
    narrowed === undefined
      ? portfolio.projects
      : portfolio.projects.filter((line) => narrowed.holds(line, period?.dataDate ?? null, period?.number ?? null));
  const ordered = useMemo(() => inOrder(portfolio, rows, by), [portfolio, rows, by]);
  const columns = useMemo(() => portfolioColumns(portfolio, paths ?? {}, setOpen), [portfolio, paths]);
  const dates = [...new Set(portfolio.projects.map(({ summary }) => summary.dataDate).filter((date) => date !== null))];
  const measured = portfolio.projects.filter(({ summary }) => summary.figures !== null);
  const currencies = [...new Set(portfolio.projects.map(({ summary }) => summary.currency))];
  const onLook = ({ sort, filter, hidden }: TableLook): void =>
    put({
      sort: sort === null ? null : `${sort.desc ? "-" : ""}${sort.id}`,
      find: filter,
      without: hidden.length === 0 ? NO_COLUMNS : hidden.join("."),
    });
  const sorted = params.get("sort");
  const fold = (now: boolean): void => {
    setFolded(now);
    keepPreference(FOLDED, now ? "yes" : "no");
  };
  return (
    <div className="page">
      <div className="flex flex-wrap items-baseline gap-x-4 pb-1">
        <h1 className="text-xl">{portfolio.name}</h1>
        <p className="muted text-sm">
          {countWords(portfolio.projects.length, "project", "projects")}
          {currencies.length === 1 && ` · amounts in ${currencies[0]}`}
          {dates.length > 0 && ` · figures ${datesWords(portfolio.projects)}`}
        </p>
        {currencies.length > 1 && (
          <p className="text-sm">
            <SummedNote money={toSummedIn(commonOf(measured, portfolio), portfolio.on)} />
          </p>
        )}
        <div className="ml-auto flex flex-wrap items-center gap-1">
          {portfolio.projects.length > 0 && (
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              aria-expanded={!folded}
              onClick={() => fold(!folded)}
            >
              {folded ? "Show the log" : "Fold the log"}
            </button>
          )}
          {holds(me, "controller", "projectManager") && (
            <Link className="btn btn-sm" to="/import">
              Bring a plan
            </Link>
          )}
          {holds(me, "controller") && <CycleTools />}
        </div>
      </div>
      {!folded && portfolio.projects.length > 0 && (
        <div className="grid gap-x-8 pb-3 lg:grid-cols-[3fr_2fr]">
          <Log portfolio={portfolio} dataDate={period?.dataDate ?? null} />
          <SpiCpiPlot projects={portfolio.projects} paths={paths ?? {}} />
        </div>
      )}
      {narrowed !== undefined && (
        <p className="pb-1 text-sm undecided">
          Showing {countWords(rows.length, "project", "projects")} {narrowed.words}.{" "}
          <button type="button" className="underline cursor-pointer" onClick={() => put({ show: null })}>
            Show all
          </button>
        </p>
      )}
      <InView pixels={ordered.length * 26}>
        <DataTable
          name="Projects"
          rows={ordered}
          columns={columns}
          rowKey={({ id }) => id}
          group={groupOf(portfolio, by)}
          totalName="All projects"
          sort={sorted === null ? undefined : { id: sorted.replace(/^-/, ""), desc: sorted.startsWith("-") }}
          filter={params.get("find") ?? undefined}
          hidden={params.get("without")?.split(".")}
          onLook={onLook}
          tools={<GroupBy by={by} fields={portfolio.fields} onBy={(next) => put({ by: next })} />}
          empty={narrowed !== undefined ? <p>None: nothing is open here.</p> : <NothingYet />}
        />
      </InView>
      {open !== null && <SaysDialog line={open} onClose={() => setOpen(null)} />}
    </div>
  );
}

/** The portfolio: what moved, breaks, costs and is missing, in sentences; then every project with its figures. */
export function PortfolioPage() {
  const query = useQuery(portfolioQuery);
  return <Loaded query={query}>{(portfolio) => <Page portfolio={portfolio} />}</Loaded>;
}
