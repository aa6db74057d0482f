import type { OwnPlans } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import type { Column } from "../../shared/table/column.ts";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { dateWords } from "../../shared/words/words.ts";
import { CalendarAddress } from "../../watch/CalendarAddress.tsx";
import { ownPlansQuery } from "./queries.ts";

type Line = OwnPlans[number];

const day = (value: string | null): string => (value === null ? "–" : dateWords(value));

const COLUMNS: readonly Column<Line>[] = [
  { id: "code", head: "Code", value: ({ code }) => code },
  {
    id: "name",
    head: "Project",
    value: ({ name }) => name,
    show: ({ id, name }) => (
      <Link className="link-quiet" to={`/desk/plans/${id}`}>
        {name}
      </Link>
    ),
  },
  { id: "manager", head: "Manager", value: ({ manager }) => manager },
  { id: "open", head: "Yours to do", numeric: true, value: ({ open }) => open },
  { id: "next", head: "First due", value: ({ next }) => next, show: ({ next }) => day(next) },
  { id: "finish", head: "Project finishes", value: ({ finish }) => finish, show: ({ finish }) => day(finish) },
  {
    id: "breaking",
    head: "Deadlines that break",
    numeric: true,
    value: ({ breaking }) => breaking,
    show: ({ breaking }) => (breaking === 0 ? "none" : <span className="adverse">{breaking}</span>),
  },
];

/** The projects in which one has work: their plans open. */
export function OwnPlansPage() {
  const query = useQuery(ownPlansQuery);
  return (
    <div className="page max-w-5xl">
      <div className="flex flex-wrap items-baseline gap-3 pb-1">
        <h1 className="text-xl">Plans of your work</h1>
        <span className="ml-auto">
          <CalendarAddress subject="work" words="your open work and its deadlines" />
        </span>
      </div>
      <Loaded query={query}>
        {(plans) => (
          <DataTable
            name="Plans of your work"
            rows={plans}
            columns={COLUMNS}
            rowKey={({ id }) => id}
            empty="You have no work in any project yet. Once somebody plans you for some, its plan is here."
          />
        )}
      </Loaded>
    </div>
  );
}
