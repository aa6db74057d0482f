import type { ReportGroups } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import { Link } from "react-router";
import { periodQuery } from "../cycle/queries.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { reportGroupsQuery, reportsOf } from "./queries.ts";

/** The newest report that was issued of something. */
function Newest({ base, number }: { base: string; number: number | null }) {
  return number === null ? (
    <span className="muted">none yet</span>
  ) : (
    <Link className="link-quiet" to={`${base}/${number}`}>
      period {number}
    </Link>
  );
}

/** The way to the open period's report. */
function Open({ base }: { base: string }) {
  const { data: period } = useQuery(periodQuery);
  return period?.number == null ? (
    <span className="muted">none is open</span>
  ) : (
    <Link className="link-quiet" to={base}>
      period {period.number}
    </Link>
  );
}

function Groups({ groups }: { groups: ReportGroups }) {
  return (
    <table className="ledger panel-table" aria-label="Reports">
      <thead>
        <tr>
          <th>Group or project</th>
          <th>Newest report</th>
          <th>Open period</th>
        </tr>
      </thead>
      <tbody>
        {groups.map(({ id, name, level, issued, mayOpen, projects }) => (
          <Fragment key={id}>
            <tr>
              <th scope="row" className="text-left" style={{ paddingInlineStart: `${level * 1.25}rem` }}>
                {name}
              </th>
              <td>{mayOpen && <Newest base={reportsOf("group", id)} number={issued} />}</td>
              <td>{mayOpen && <Open base={reportsOf("group", id)} />}</td>
            </tr>
            {projects.map((project) => (
              <tr key={project.id}>
                <td style={{ paddingInlineStart: `${(level + 1) * 1.25}rem` }}>
                  <span className="muted">{project.code}</span> {project.name}
                  {project.closed && <span className="muted"> · closed</span>}
                </td>
                <td>
                  <Newest base={reportsOf("project", project.id)} number={project.issued} />
                </td>
                <td>{!project.closed && <Open base={reportsOf("project", project.id)} />}</td>
              </tr>
            ))}
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}

/** All groups and projects with their reports. */
export function ReportsPage() {
  const groups = useQuery(reportGroupsQuery);
  return (
    <div className="page">
      <h1 className="text-xl">Reports</h1>
      <Loaded query={groups}>{(data) => <Groups groups={data} />}</Loaded>
    </div>
  );
}
