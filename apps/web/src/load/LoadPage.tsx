import type { Load, LoadCell } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { FileDown, X } from "lucide-react";
import Papa from "papaparse";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { DateField } from "../shared/fields/DateField.tsx";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { saveFile } from "../shared/table/saveFile.ts";
import { holds, useMe } from "../shared/session/session.ts";
import { useAddress } from "../shared/page/useAddress.ts";
import { countWords, dateWords } from "../shared/words/words.ts";
import { ActBar } from "../watch/ActBar.tsx";
import { watchChoicesQuery } from "../watch/queries.ts";
import { loadLines, type LoadBy, type LoadLine } from "./loadLines.ts";
import { LoadTable, type LoadMeasure } from "./LoadTable.tsx";
import { loadCellQuery, loadQuery } from "./queries.ts";
import { todayHere } from "../shared/words/today.ts";

const WEEKS = [8, 13, 26, 52] as const;
const MEASURES: readonly (readonly [LoadMeasure, string])[] = [
  ["hours", "remaining hours"],
  ["things", "number of things"],
  ["actual", "booked / planned"],
];

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
function Opened({ line, monday, i, onClose }: { line: LoadLine; monday: string; i: number; onClose: () => void }) {
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

function exportLoad(weeks: Load["weeks"], lines: readonly LoadLine[]): void {
  const data = lines.flatMap((line) =>
    weeks.map((monday, i) => [
      line.name,
      monday,
      ...(["capacity", "demand", "things", "planned", "posted"] as const).map((measure) =>
        measure === "things" ? line[measure][i] : Math.round((line[measure][i]! / 60) * 100) / 100,
      ),
    ]),
  );
  saveFile(
    "load.csv",
    `\uFEFF${Papa.unparse({ fields: ["Who", "Week", "Capacity h", "Remaining work, h", "Things", "Planned h", "Booked h"], data }, { escapeFormulae: true })}`,
    "text/csv",
  );
}

/** Who is over and who has room, week by week: people, roles or teams. */
export function LoadPage() {
  const [params, put] = useAddress();
  const today = todayHere();
  const from = params.get("from") ?? today;
  const weeks = WEEKS.find((each) => String(each) === params.get("weeks")) ?? 13;
  const by = (["person", "role", "team"] as const).find((each) => each === params.get("by")) ?? "person";
  const measure = MEASURES.find(([each]) => each === params.get("show"))?.[0] ?? "hours";
  const over = params.get("over") === "yes";
  const [key, monday] = [params.get("who"), params.get("week")];
  const query = useQuery(loadQuery(from, weeks));
  const all = useMemo(() => (query.data === undefined ? [] : loadLines(query.data, by)), [query.data, by]);
  const lines = over ? all.filter(({ demand, capacity }) => demand.some((minutes, i) => minutes > capacity[i]!)) : all;
  const line = all.find((each) => each.key === key);
  const i = query.data?.weeks.indexOf(monday ?? "") ?? -1;
  return (
    <div className="beside">
      <div className="min-w-0 flex-1 overflow-auto px-5 py-3" tabIndex={0} role="region" aria-label="Load">
        <div className="flex flex-wrap items-center gap-3 pb-2 text-sm">
          <h1 className="text-xl">Load</h1>
          <label className="flex items-center gap-1">
            from
            <DateField small label="First week" value={from} onDate={(date) => put({ from: date })} />
          </label>
          <label className="flex items-center gap-1">
            for
            <select
              className="select select-sm w-auto"
              aria-label="How many weeks"
              value={weeks}
              onChange={(event) => put({ weeks: event.target.value })}
            >
              {WEEKS.map((each) => (
                <option key={each} value={each}>
                  {each} weeks
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center gap-1">
            by
            <select
              className="select select-sm w-auto"
              aria-label="By"
              value={by}
              onChange={(event) => put({ by: event.target.value, who: null, week: null })}
            >
              {(["person", "role", "team"] as const satisfies readonly LoadBy[]).map((each) => (
                <option key={each} value={each}>
                  {each}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center gap-1">
            in
            <select
              className="select select-sm w-auto"
              aria-label="Shown as"
              value={measure}
              onChange={(event) => put({ show: event.target.value })}
            >
              {MEASURES.map(([each, words]) => (
                <option key={each} value={each}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={over}
              onChange={(event) => put({ over: event.target.checked ? "yes" : null })}
            />
            only who is over
          </label>
          <button
            type="button"
            className="btn btn-ghost btn-sm ml-auto"
            disabled={query.data === undefined}
            onClick={() => query.data !== undefined && exportLoad(query.data.weeks, lines)}
          >
            <FileDown size={14} aria-hidden="true" /> Export
          </button>
        </div>
        <Loaded query={query}>
          {(load) =>
            lines.length === 0 ? (
              <p className="muted py-4">
                {over
                  ? "Nobody is over in these weeks."
                  : "Nobody has work in these weeks. People are put on activities in a plan, under Work, or in its People column."}
              </p>
            ) : (
              <>
                <LoadTable
                  weeks={load.weeks}
                  lines={lines}
                  measure={measure}
                  today={today}
                  chosen={key === null || monday === null ? null : { key, monday }}
                  onChoose={(who, week) =>
                    put(who === key && week === monday ? { who: null, week: null } : { who, week })
                  }
                />
                <p className="muted pt-2 text-sm">
                  {countWords(lines.length, by, by === "person" ? "people" : `${by}s`)}. Remaining hours of work, spread
                  evenly over the working time of each one’s window; the vessel is full at what the calendar allows,
                  leave taken off. Barred weeks run over.
                </p>
              </>
            )
          }
        </Loaded>
      </div>
      {line !== undefined && i >= 0 && monday !== null && (
        <Opened
          key={`${key} ${monday}`}
          line={line}
          monday={monday}
          i={i}
          onClose={() => put({ who: null, week: null })}
        />
      )}
    </div>
  );
}
