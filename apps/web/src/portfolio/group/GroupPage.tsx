import type { GroupPeriods, Groups, Paths, Portfolio, ProjectLine } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { Curves } from "../../look/Curves.tsx";
import { IndexCurves } from "../../look/IndexCurves.tsx";
import { deadlinesInDanger } from "../../project/logLines.ts";
import { closedOnes, openOnes } from "../../project/openOnes.ts";
import { reachInWords } from "../../project/programmeTree.ts";
import { groupsQuery, pathsQuery, portfolioQuery } from "../../project/queries.ts";
import { figuresTogether } from "../../project/together.ts";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import { useTitle } from "../../shared/page/useTitle.ts";
import { holds, seesGroup, useMe } from "../../shared/session/session.ts";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { SummedNote } from "../../shared/table/SummedNote.tsx";
import {
  countWords,
  dateWords,
  DEADLINE_TONES,
  indexTone,
  money,
  ratioWords,
  standingWords,
  varianceTone,
  varianceWords,
} from "../../shared/words/words.ts";
import { portfolioColumns } from "../portfolioColumns.tsx";
import { SaysDialog } from "../SaysDialog.tsx";
import { ClosedProjects } from "./ClosedProjects.tsx";
import { GroupEarnedSchedule } from "./GroupEarnedSchedule.tsx";
import { GroupLoad } from "./GroupLoad.tsx";
import { childrenOf, HOUSE, linesOf, pathTo, periodsTogether } from "./groupFigures.ts";
import { groupPeriodsQuery } from "./queries.ts";
import { AnnounceButton } from "../../talk/announce/AnnounceButton.tsx";
import { Announcements } from "../../talk/announce/Announcements.tsx";

const NO_PATHS: Paths = {};

/** What the group comes to, formed from the sums of its projects. */
function Sums({ lines, portfolio }: { lines: readonly ProjectLine[]; portfolio: Portfolio }) {
  const together = figuresTogether(lines, portfolio);
  if (together === null)
    return <p className="muted">Nothing to sum up: no project here is measured, or a rate of exchange is missing.</p>;
  const { figures: f, summedIn } = together;
  const { minorDigits: digits } = summedIn;
  const amounts: readonly (readonly [string, string])[] = [
    ["BAC", money(f.bac, digits)],
    ["PV", money(f.pv, digits)],
    ["EV", money(f.ev, digits)],
    ["AC", money(f.ac, digits)],
    ["EAC", money(f.eac, digits)],
  ];
  return (
    <>
      <dl className="flex flex-wrap gap-x-8 gap-y-1">
        {amounts.map(([name, value]) => (
          <div key={name} className="flex items-baseline gap-2">
            <dt className="muted text-sm">{name}</dt>
            <dd className="figure text-[17px]">{value}</dd>
          </div>
        ))}
        {(["spi", "cpi"] as const).map((index) => (
          <div key={index} className="flex items-baseline gap-2">
            <dt className="muted text-sm">{index.toUpperCase()}</dt>
            <dd className="figure text-[17px]">
              <Toned tone={indexTone(f[index])} marked>
                {ratioWords(f[index])}
              </Toned>
            </dd>
          </div>
        ))}
        <div className="flex items-baseline gap-2">
          <dt className="muted text-sm">CV</dt>
          <dd className="figure text-[17px]">
            <Toned tone={varianceTone(f.cv)}>{varianceWords(f.cv, digits, "over", "under")}</Toned>
          </dd>
        </div>
      </dl>
      <p className="muted text-sm">
        <SummedNote money={summedIn} />
      </p>
    </>
  );
}

/** What was issued of the group, period by period. */
function OverPeriods({ issued, portfolio }: { issued: GroupPeriods; portfolio: Portfolio }) {
  const { periods, summedIn } = useMemo(() => periodsTogether(issued, portfolio), [issued, portfolio]);
  const curve = useMemo(
    () => periods.map(({ dataDate, figures: { pv, ev, ac } }) => ({ date: dataDate, pv, ev, ac })),
    [periods],
  );
  const indices = useMemo(
    () => periods.map(({ dataDate, figures: { spi, cpi } }) => ({ dataDate, spi, cpi })),
    [periods],
  );
  if (summedIn === null || periods.length === 0)
    return <p className="muted">Nothing was issued yet; once a period is, its sums stand here.</p>;
  return (
    <div className="grid gap-x-8 gap-y-3 lg:grid-cols-2">
      <Curves curve={curve} minorDigits={summedIn.minorDigits} dataDate={null} forecast={null} />
      <IndexCurves periods={indices} />
    </div>
  );
}

/** Deadlines of its projects that are broken, will be, or are tight; the thinnest first. */
function Endangered({ lines }: { lines: readonly ProjectLine[] }) {
  const all = deadlinesInDanger(lines);
  if (all.length === 0) return <p className="muted text-sm">None is broken, will be, or is tight.</p>;
  return (
    <ul className="text-sm">
      {all.map(({ line, deadline }) => (
        <li key={`${line.id} ${deadline.id}`} className="border-b rule py-0.5">
          <Link className="link-quiet" to={`/deadlines?at=${line.id}:${deadline.id}`}>
            {deadline.name}
          </Link>
          , {line.code}: {dateWords(deadline.deadline)},{" "}
          <Toned tone={DEADLINE_TONES[deadline.state]}>{standingWords(deadline.state, deadline.marginDays)}</Toned>
        </li>
      ))}
    </ul>
  );
}

interface GroupProps {
  readonly id: string;
  readonly name: string;
  readonly groups: Groups["groups"];
  readonly portfolio: Portfolio;
}

/** The groups directly below, each with what it comes to. */
function Below({ id, groups, portfolio }: Omit<GroupProps, "name">) {
  const children = childrenOf(groups, id);
  if (children.length === 0) return null;
  return (
    <section className="pt-4">
      <h2 className="pb-1 text-base">Groups</h2>
      <table className="ledger max-w-4xl" aria-label="Groups">
        <thead>
          <tr>
            <th>Group</th>
            <th>Answers for it</th>
            <th className="num">Projects</th>
            <th className="num">BAC</th>
            <th className="num">SPI</th>
            <th className="num">CPI</th>
          </tr>
        </thead>
        <tbody>
          {children.map((group) => {
            const lines = linesOf(portfolio, groups, group.id);
            const together = figuresTogether(lines, portfolio, portfolio.projects);
            const index = (value: number | null | undefined) => (
              <Toned tone={indexTone(value ?? null)} marked>
                {ratioWords(value ?? null)}
              </Toned>
            );
            return (
              <tr key={group.id}>
                <td>
                  <Link className="link-quiet" to={`/groups/${group.id}`}>
                    {group.name}
                  </Link>
                </td>
                <td>{group.manager?.name ?? "–"}</td>
                <td className="num">{lines.length}</td>
                <td className="num">
                  {together === null ? "–" : money(together.figures.bac, together.summedIn.minorDigits)}
                </td>
                <td className="num">{index(together?.figures.spi)}</td>
                <td className="num">{index(together?.figures.cpi)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

function Head({ id, name, groups }: Omit<GroupProps, "portfolio">) {
  const own = groups.find((group) => group.id === id);
  const me = useMe();
  const isWhole = seesGroup(me, id);
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 pb-2">
      {id !== HOUSE && (
        <span className="muted text-sm">
          <Link to="/groups">All groups</Link> ›{" "}
          {pathTo(groups, id).map((above) => (
            <span key={above.id}>
              <Link to={`/groups/${above.id}`}>{above.name}</Link> ›{" "}
            </span>
          ))}
        </span>
      )}
      <h1 className="text-xl">{name}</h1>
      {own?.manager != null && <span className="muted text-sm">{own.manager.name} answers for it</span>}
      {!isWhole && <span className="undecided text-sm">Of what you see: {reachInWords(me, groups) ?? "your own"}</span>}
      <span className="ml-auto flex gap-2">
        {id !== HOUSE && (holds(me, "controller") || own?.manager?.id === me.id) && (
          <AnnounceButton project={null} group={id} of={name} />
        )}
        {isWhole && (
          <Link className="btn btn-sm" to={`/reports/${id}`}>
            Report
          </Link>
        )}
        <Link className="btn btn-sm" to={id === HOUSE ? "/registers" : `/registers?group=${id}`}>
          Registers
        </Link>
        <Link className="btn btn-sm" to="/roadmap">
          Roadmap
        </Link>
      </span>
    </div>
  );
}

function Group({ id, name, groups, portfolio: all }: GroupProps) {
  useTitle(name);
  const issued = useQuery(groupPeriodsQuery(id));
  const paths = useQuery(pathsQuery).data ?? NO_PATHS;
  const [open, setOpen] = useState<ProjectLine | null>(null);
  const portfolio = useMemo(() => openOnes(all), [all]);
  const lines = useMemo(() => linesOf(portfolio, groups, id), [portfolio, groups, id]);
  const closed = useMemo(() => linesOf(closedOnes(all), groups, id), [all, groups, id]);
  const within = useMemo(() => ({ ...portfolio, projects: lines }), [portfolio, lines]);
  const columns = useMemo(() => portfolioColumns(within, paths, setOpen), [within, paths]);
  return (
    <div className="page">
      <Head id={id} name={name} groups={groups} />
      {id !== HOUSE && <Announcements group={id} whole />}
      <Sums lines={lines} portfolio={portfolio} />
      <section className="pt-4">
        <h2 className="pb-1 text-base">Earned schedule</h2>
        <GroupEarnedSchedule id={id} lines={lines} portfolio={portfolio} />
      </section>
      <section className="pt-4">
        <h2 className="pb-1 text-base">
          Over the periods, as issued{" "}
          <span className="muted text-sm font-normal">
            what was not issued in a period, or is closed since, counts as it was issued last
          </span>
        </h2>
        <Loaded query={issued}>{(periods) => <OverPeriods issued={periods} portfolio={portfolio} />}</Loaded>
      </section>
      <Below id={id} groups={groups} portfolio={portfolio} />
      <section className="pt-4">
        <h2 className="pb-1 text-base">{countWords(lines.length, "project", "projects")}</h2>
        <DataTable
          name="Projects of the group"
          rows={lines}
          columns={columns}
          rowKey={({ id: line }) => line}
          totalName="The group"
          empty={<p>No project is here yet; it is put here under Groups and limits.</p>}
        />
        <ClosedProjects lines={closed} />
      </section>
      <section className="max-w-4xl pt-4">
        <h2 className="pb-1 text-base">Deadlines in danger</h2>
        <Endangered lines={lines} />
      </section>
      <section className="max-w-4xl pt-4">
        <h2 className="pb-1 text-base">Load</h2>
        <GroupLoad id={id} />
      </section>
      {open !== null && <SaysDialog line={open} onClose={() => setOpen(null)} />}
    </div>
  );
}

/** A group of projects, or all of them: what it comes to, over the periods, its groups, projects and deadlines. */
export function GroupPage() {
  const { group: id = HOUSE } = useParams();
  const portfolio = useQuery(portfolioQuery);
  const groups = useQuery(groupsQuery);
  return (
    <Loaded query={portfolio}>
      {(house) => (
        <Loaded query={groups}>
          {({ groups: all }) => {
            const name = id === HOUSE ? house.name : all.find((each) => each.id === id)?.name;
            return name === undefined ? (
              <p className="page">
                There is no group of that address; it may have been removed. <Link to="/groups">All groups</Link>
              </p>
            ) : (
              <Group key={id} id={id} name={name} groups={all} portfolio={house} />
            );
          }}
        </Loaded>
      )}
    </Loaded>
  );
}
