import type { LoadCell } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { holds, useMe } from "../shared/session/session.ts";
import { dateWords } from "../shared/words/words.ts";
import { ActBar } from "../watch/ActBar.tsx";
import { watchChoicesQuery } from "../watch/queries.ts";
import { type LoadLine } from "./loadLines.ts";
import { loadCellQuery } from "./queries.ts";

function Cell({
  cell,
  monday,
  chosen,
  onChosen,
}: {
  cell: LoadCell;
  monday: string;
  chosen: ReadonlySet<string>;
  onChosen: (key: string, on: boolean) => void;
}) {
  return (
    <ul className="text-sm">
      {cell.map((row) => {
        const key = `${row.project} ${row.activity}`;
        return (
          <li key={key} className="flex gap-2 border-b rule py-1">
            <input
              type="checkbox"
              className="checkbox checkbox-xs mt-0.5"
              aria-label={`Select ${row.name}`}
              disabled={!row.mayEdit}
              checked={chosen.has(key)}
              onChange={(event) => onChosen(key, event.target.checked)}
            />
            <span className="min-w-0">
              <Link className="link-quiet" to={`/projects/${row.project}/plan?at=${encodeURIComponent(row.activity)}`}>
                {row.name}
              </Link>{" "}
              <span className="muted">
                {row.projectName} · {dateWords(row.start)} to {dateWords(row.finish)}
                {row.float !== null && `, float ${Math.round(row.float * 10) / 10} d`}
              </span>
            </span>
            <span className="ml-auto whitespace-nowrap">
              {row.minutes > 0 && formatHours(row.minutes)}
              {row.postedMinutes > 0 && <span className="muted"> {formatHours(row.postedMinutes)} booked</span>}
            </span>
          </li>
        );
      })}
      {cell.length === 0 && <li className="muted py-1">Nothing in the week of {dateWords(monday)}.</li>}
    </ul>
  );
}

/** One week of a line, opened: what it consists of, and what can be done about it. */
export function LoadOpened({
  line,
  monday,
  i,
  onClose,
}: {
  line: LoadLine;
  monday: string;
  i: number;
  onClose: () => void;
}) {
  const me = useMe();
  const [person, setPerson] = useState(line.people[0]!.id);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const query = useQuery(loadCellQuery(person, monday));
  const { data: choices } = useQuery(watchChoicesQuery);
  const who = line.people.find(({ id }) => id === person)!;
  const [demand, capacity] = [who.demand[i]!, who.capacity[i]!];
  const rows = [...chosen].map((key) => ({
    project: key.slice(0, key.indexOf(" ")),
    activity: key.slice(key.indexOf(" ") + 1),
  }));
  return (
    <>
      <aside aria-label={`Week of ${who.name}`} className="w-96 shrink-0 overflow-auto border-l rule px-4 py-3">
        <div className="flex items-start justify-between">
          <h2 className="text-base">
            {line.name}, week of {dateWords(monday)}
          </h2>
          <button type="button" className="p-1 cursor-pointer" aria-label="Close" onClick={onClose}>
            <X size={16} aria-hidden="true" />
          </button>
        </div>
        {line.people.length > 1 && (
          <select
            className="select select-sm my-1 w-full"
            aria-label="Whose week"
            value={person}
            onChange={(event) => {
              setPerson(event.target.value);
              setChosen(new Set());
            }}
          >
            {line.people.map(({ id, name, demand: own, capacity: has }) => (
              <option key={id} value={id}>
                {name}: {formatHours(own[i]!)} in {formatHours(has[i]!)}
              </option>
            ))}
          </select>
        )}
        <p className="text-sm">
          {formatHours(demand)} of work in {formatHours(capacity)}:{" "}
          {demand > capacity ? (
            <span className="adverse">{formatHours(demand - capacity)} too much</span>
          ) : (
            `${formatHours(capacity - demand)} of room`
          )}
        </p>
        <Loaded query={query}>
          {(cell) => (
            <Cell
              cell={cell}
              monday={monday}
              chosen={chosen}
              onChosen={(key, on) =>
                setChosen((was) => {
                  const next = new Set(was);
                  if (on) next.add(key);
                  else next.delete(key);
                  return next;
                })
              }
            />
          )}
        </Loaded>
      </aside>
      {rows.length > 0 && holds(me, "controller", "projectManager") && (
        <ActBar rows={rows} choices={choices} from={person} onDone={() => setChosen(new Set())} />
      )}
    </>
  );
}
