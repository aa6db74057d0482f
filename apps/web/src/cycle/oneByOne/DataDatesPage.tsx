import type { EffectView as EffectOfChanges, Portfolio } from "@chronometra/contract";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { isBehind } from "../../project/isBehind.ts";
import { portfolioQuery } from "../../project/queries.ts";
import { call } from "../../shared/session/api.ts";
import { DateField } from "../../shared/fields/DateField.tsx";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure, Loaded } from "../../shared/dialogs/Failure.tsx";
import { undoToast } from "../../shared/dialogs/undoToast.ts";
import { countWords, dateWords } from "../../shared/words/words.ts";
import { useOneByOne } from "./oneByOne.ts";
import { periodQuery } from "../queries.ts";
import { Running } from "./Running.tsx";
import { Line } from "./DateLines.tsx";
import { TickAll } from "./TickAll.tsx";

interface Stored {
  readonly moved: readonly string[];
  readonly refused: readonly { readonly project: string; readonly why: string }[];
}

/** Moves the data dates, each project for itself; and how that went. */
function useStoring(date: string, onStored: () => void) {
  const client = useQueryClient();
  const [stored, setStored] = useState<Stored | null>(null);
  const [fault, setFault] = useState<unknown>(null);
  const [storing, setStoring] = useState(false);
  const store = async (projects: readonly string[]): Promise<void> => {
    setStoring(true);
    setFault(null);
    try {
      const answer = await call("POST /api/portfolio/data-date", { body: { date, projects: [...projects] } });
      setStored(answer);
      onStored();
      if (answer.moved.length > 0)
        undoToast(client, {
          revisions: answer.revisions,
          words: `${countWords(answer.moved.length, "project", "projects")} recalculated as of ${dateWords(date)}${answer.refused.length > 0 ? `; ${answer.refused.length} refused` : ""}.`,
        });
    } catch (error) {
      setFault(error);
    }
    setStoring(false);
    await client.invalidateQueries();
  };
  return { stored, fault, storing, store, forget: () => setStored(null) };
}

/** The head of the table, with the tick for all projects. */
const Head = ({ all, onAll }: { all: boolean; onAll: (on: boolean) => void }) => (
  <thead>
    <tr>
      <TickAll name="Select all projects" all={all} onAll={onAll} />
      <th>Project</th>
      <th>Data date</th>
      <th className="num">Finish</th>
      <th className="num">Dates that move</th>
      <th>Newly lost</th>
      <th className="num">CV</th>
      <th className="num">SPI</th>
      <th className="num">CPI</th>
      <th>
        <span className="sr-only">In detail</span>
      </th>
    </tr>
  </thead>
);

function InDetail({ name, effect }: { name: string; effect: EffectOfChanges }) {
  return (
    <section aria-label={`What would move in ${name}`} className="mt-2 max-w-3xl border-l-4 border-accent pl-3">
      <h2 className="text-base">{name}</h2>
      <EffectView effect={effect} />
    </section>
  );
}

function Moving({ portfolio, date: suggested }: { portfolio: Portfolio; date: string }) {
  const [date, setDate] = useState(suggested);
  const mine = portfolio.projects.filter(({ mayEdit, closed }) => mayEdit && !closed);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(
    () => new Set(mine.filter((line) => isBehind(line, suggested)).map(({ id }) => id)),
  );
  const [opened, setOpened] = useState<string | null>(null);
  const lineOf = new Map(mine.map((line) => [line.id, line]));
  const { state, start, stop, clear } = useOneByOne((id) =>
    call("POST /api/projects/:project/effect", {
      params: { project: id },
      body: { revision: lineOf.get(id)!.revision, changes: [{ type: "setDataDate", date }] },
    }),
  );
  const { stored, fault, storing, store, forget } = useStoring(date, clear);
  const taken = mine.filter(({ id }) => chosen.has(id));
  const choose = (ids: ReadonlySet<string>): void => setChosen(ids);
  const changeDate = (next: string): void => {
    setDate(next);
    clear();
    forget();
  };
  const seen = taken.every(({ id }) => state.results.has(id) || state.faults.has(id));
  const shown = opened === null ? undefined : state.results.get(opened);
  return (
    <div className="page">
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2 pb-2">
        <h1 className="text-xl">Move data dates</h1>
        <div className="flex items-center gap-2 text-sm">
          to <DateField label="Data date" value={date} onDate={changeDate} />
        </div>
        <p className="muted text-sm">
          Remaining work is laid out from the close of this day on; earned value and cost are measured at it.{" "}
          {countWords(mine.filter((line) => isBehind(line, date)).length, "project is", "projects are")} behind it.
        </p>
      </div>
      <div className="max-w-full overflow-x-auto">
        <table className="ledger" aria-label="Data dates">
          <Head
            all={taken.length === mine.length && mine.length > 0}
            onAll={(on) => choose(new Set(on ? mine.map(({ id }) => id) : []))}
          />
          <tbody>
            {mine.map((line) => {
              const effect = state.results.get(line.id);
              const why =
                state.faults.get(line.id) ?? stored?.refused.find(({ project }) => project === line.code)?.why;
              return (
                <Line
                  key={line.id}
                  line={line}
                  isBehind={isBehind(line, date)}
                  chosen={chosen.has(line.id)}
                  effect={effect}
                  why={why}
                  moved={stored?.moved.includes(line.code) === true}
                  opened={opened === line.id}
                  onChoose={(on) =>
                    choose(new Set(on ? [...chosen, line.id] : [...chosen].filter((id) => id !== line.id)))
                  }
                  onOpen={() => setOpened(opened === line.id ? null : line.id)}
                />
              );
            })}
          </tbody>
        </table>
      </div>
      {shown !== undefined && <InDetail name={lineOf.get(opened!)!.name} effect={shown} />}
      {fault !== null && <Failure error={fault} />}
      <div className="flex flex-wrap items-center gap-3 pt-3">
        {state.running ? (
          <Running words="Calculating" done={state.done} of={state.of} onStop={stop} />
        ) : (
          <button
            type="button"
            className="btn"
            disabled={taken.length === 0 || date === ""}
            onClick={() => void start(taken.map(({ id }) => id))}
          >
            Show what it would move
          </button>
        )}
        <button
          type="button"
          className="btn btn-primary"
          disabled={taken.length === 0 || date === "" || storing || state.running || !seen}
          title={seen ? undefined : "Look first at what it would move"}
          onClick={() => void store(taken.map(({ id }) => id))}
        >
          {storing ? "Recalculating …" : `Move ${countWords(taken.length, "data date", "data dates")}`}
        </button>
      </div>
    </div>
  );
}

/** Moves the data dates of the projects chosen, after showing what that would move in each. */
export function DataDatesPage() {
  const portfolio = useQuery(portfolioQuery);
  const period = useQuery(periodQuery);
  return (
    <Loaded query={portfolio}>
      {(all) => (
        <Loaded query={period}>
          {(bar) => <Moving key={bar.dataDate ?? ""} portfolio={all} date={bar.dataDate ?? ""} />}
        </Loaded>
      )}
    </Loaded>
  );
}
