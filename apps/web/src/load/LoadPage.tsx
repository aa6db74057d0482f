import type { Load } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { portfolioQuery } from "../project/queries.ts";
import { DateField } from "../shared/fields/DateField.tsx";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { FileChoice } from "../shared/files/FileChoice.tsx";
import type { FileTable } from "../shared/files/tableText.ts";
import { saveTable, TABLE_FORMS } from "../shared/files/saveTable.ts";
import { useAddress } from "../shared/page/useAddress.ts";
import { countWords } from "../shared/words/words.ts";
import { isOver, loadLines, type LoadBy, type LoadLine } from "./loadLines.ts";
import { LoadTable, type LoadMeasure } from "./LoadTable.tsx";
import { loadQuery } from "./queries.ts";
import { todayHere } from "../shared/words/today.ts";
import { LoadOpened } from "./LoadOpened.tsx";

const WEEKS = [8, 13, 26, 52] as const;
const MEASURES: readonly (readonly [LoadMeasure, string])[] = [
  ["hours", "remaining hours"],
  ["things", "number of things"],
  ["actual", "booked / planned"],
];

/** Who is loaded how, week by week, as it stands in a file; hours with two digits. */
const loadTable = (weeks: Load["weeks"], lines: readonly LoadLine[]): FileTable => ({
  heads: ["Who", "Week", "Capacity h", "Remaining work, h", "Things", "Planned h", "Booked h"],
  data: lines.flatMap((line) =>
    weeks.map((monday, i) => [
      line.name,
      monday,
      ...(["capacity", "demand", "things", "planned", "posted"] as const).map((measure) =>
        measure === "things" ? (line[measure][i] ?? null) : Math.round((line[measure][i]! / 60) * 100) / 100,
      ),
    ]),
  ),
});

/** What the address asks to be shown. */
function useAsked() {
  const [params, put] = useAddress();
  const today = todayHere();
  const from = params.get("from") ?? today;
  const weeks = WEEKS.find((each) => String(each) === params.get("weeks")) ?? 13;
  const by = (["person", "role", "team"] as const).find((each) => each === params.get("by")) ?? "person";
  const measure = MEASURES.find(([each]) => each === params.get("show"))?.[0] ?? "hours";
  const over = params.get("over") === "yes";
  return { params, put, today, from, weeks, by, measure, over, group: params.get("group") };
}

/** Of which group those are who are shown, and the way back to all. */
function OfGroup({ id, onAll }: { id: string; onAll: () => void }) {
  const name = useQuery(portfolioQuery).data?.programmes.find((group) => group.id === id)?.name ?? "a group";
  return (
    <span className="undecided">
      Who works in {name}, with all their work.{" "}
      <button type="button" className="cursor-pointer underline" onClick={onAll}>
        Show all
      </button>
    </span>
  );
}

/** Which weeks, of whom and in what, and the table as a file. */
function LoadHead({
  asked: { put, from, weeks, by, measure, over, group },
  table,
}: {
  asked: ReturnType<typeof useAsked>;
  /** What is shown, as it stands in a file; `null` until it is there. */
  table: FileTable | null;
}) {
  return (
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
      {group !== null && <OfGroup id={group} onAll={() => put({ group: null, who: null, week: null })} />}
      {table !== null && (
        <div className="ml-auto">
          <FileChoice forms={TABLE_FORMS} onSave={(form) => saveTable("Load", form, table)} />
        </div>
      )}
    </div>
  );
}

/** Who is over and who has room, week by week: people, roles or teams. */
export function LoadPage() {
  const asked = useAsked();
  const { params, put, today, from, weeks, by, measure, over, group } = asked;
  const [key, monday] = [params.get("who"), params.get("week")];
  const query = useQuery(loadQuery(from, weeks, group));
  const all = useMemo(() => (query.data === undefined ? [] : loadLines(query.data, by)), [query.data, by]);
  const lines = over ? all.filter(isOver) : all;
  const line = all.find((each) => each.key === key);
  const i = query.data?.weeks.indexOf(monday ?? "") ?? -1;
  return (
    <div className="beside">
      <div className="min-w-0 flex-1 overflow-auto px-5 py-3" tabIndex={0} role="region" aria-label="Load">
        <LoadHead asked={asked} table={query.data === undefined ? null : loadTable(query.data.weeks, lines)} />
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
        <LoadOpened
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
