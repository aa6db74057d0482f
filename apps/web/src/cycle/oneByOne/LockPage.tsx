import { shortfalls, type Cycle, type Portfolio, type ProjectCycle, type ProjectLine } from "@chronometra/contract";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { toast } from "../../shared/messages/toast.ts";
import { portfolioQuery } from "../../project/queries.ts";
import { call } from "../../shared/session/api.ts";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { useAddress } from "../../shared/page/useAddress.ts";
import { countWords, dateWords } from "../../shared/words/words.ts";
import { useOneByOne } from "./oneByOne.ts";
import { cycleQuery } from "../queries.ts";
import { Running } from "./Running.tsx";
import { obstacles, Effect, LockRow } from "./LockRow.tsx";
import { TickAll } from "./TickAll.tsx";
import { NoPeriod } from "../NoPeriod.tsx";

const UNDO_MILLISECONDS = 20_000;

/** Locks the period for projects, one after another, each for itself; and takes back what was locked. */
function useLocking(number: number | null, lines: ReadonlyMap<string, ProjectLine>, wordOf: (id: string) => string) {
  const client = useQueryClient();
  const { state, start, stop } = useOneByOne((id) =>
    call("POST /api/projects/:project/lock", { params: { project: id }, body: { word: wordOf(id) } }),
  );
  const undo = async (ids: readonly string[]): Promise<void> => {
    const kept: string[] = [];
    for (const id of ids)
      await call("DELETE /api/projects/:project/lock", { params: { project: id } }).catch((error: Error) =>
        kept.push(`${lines.get(id)?.code ?? id}: ${error.message}`),
      );
    if (kept.length === 0) toast(`${countWords(ids.length, "lock is", "locks are")} withdrawn.`);
    else toast.error(kept.join("\n"));
    await client.invalidateQueries();
  };
  const lock = async (ids: readonly string[]): Promise<void> => {
    const { results, faults } = await start(ids);
    const done = [...results.keys()];
    if (done.length > 0)
      toast(
        `Period ${number} is locked for ${countWords(done.length, "project", "projects")}${faults.size > 0 ? `; ${faults.size} could not be` : ""}.`,
        { action: { label: "Undo", onClick: () => void undo(done) }, duration: UNDO_MILLISECONDS },
      );
    await client.invalidateQueries();
  };
  return { state, stop, lock };
}

interface LockNowProps {
  readonly taken: readonly ProjectCycle[];
  /** Of what falls short, what nobody has said yet why it is locked all the same. */
  readonly unsaid: readonly ProjectCycle[];
  readonly locking: ReturnType<typeof useLocking>;
}

/** The press that locks, or why it cannot be pressed yet. */
function LockNow({ taken, unsaid, locking }: LockNowProps) {
  return (
    <>
      {locking.state.running ? (
        <Running words="Locking" done={locking.state.done} of={locking.state.of} onStop={locking.stop} />
      ) : (
        <button
          type="button"
          className="btn btn-primary"
          disabled={taken.length === 0 || unsaid.length > 0}
          title={
            unsaid.length > 0
              ? `Say why ${unsaid.map(({ name }) => name).join(", ")} ${unsaid.length === 1 ? "is" : "are"} locked all the same`
              : undefined
          }
          onClick={() => void locking.lock(taken.map(({ id }) => id))}
        >
          Lock {countWords(taken.length, "project", "projects")}
        </button>
      )}
      {unsaid.length > 0 && !locking.state.running && (
        <span className="undecided text-sm">
          Of {countWords(unsaid.length, "project", "projects")} something falls short: say why{" "}
          {unsaid.length === 1 ? "it is" : "they are"} locked all the same, or leave{" "}
          {unsaid.length === 1 ? "it" : "them"} out.
        </span>
      )}
    </>
  );
}

/** Projects whose period is open, of all or of one. */
const notLocked = (cycle: Cycle, only: string | null): ProjectCycle[] =>
  cycle.projects.filter(({ takesPart, locked, id }) => takesPart && !locked && (only === null || id === only));

/** What is chosen at first: what falls short is not, before someone has said why it is passed over. */
const chosenAtFirst = (open: readonly ProjectCycle[], only: string | null): ReadonlySet<string> =>
  new Set(
    open
      .filter((project) => obstacles(project).length === 0 && (only !== null || shortfalls(project).length === 0))
      .map(({ id }) => id),
  );

/** The head of the table, with the tick for all that can be locked. */
const Head = ({ all, onAll }: { all: boolean; onAll: (on: boolean) => void }) => (
  <thead>
    <tr>
      <TickAll name="Select all that can be locked" all={all} onAll={onAll} />
      <th>Project</th>
      <th className="num">SPI</th>
      <th className="num">CPI</th>
      <th className="num">Since last period</th>
      <th>Falls short</th>
      <th>A word</th>
    </tr>
  </thead>
);

function Locking({ cycle, portfolio }: { cycle: Cycle; portfolio: Portfolio }) {
  const [params] = useAddress();
  const only = params.get("project");
  const open = useMemo(() => notLocked(cycle, only), [cycle, only]);
  const [chosen, setChosen] = useState(() => chosenAtFirst(open, only));
  const [words, setWords] = useState<Readonly<Record<string, string>>>({});
  const [all, setAll] = useState("");
  const wordOf = (id: string): string => (words[id]?.trim() ?? "") || all.trim();
  const lines = new Map(portfolio.projects.map((line) => [line.id, line]));
  const locking = useLocking(cycle.number, lines, wordOf);
  const { state } = locking;
  const taken = open.filter(({ id }) => chosen.has(id) && !state.results.has(id));
  const unsaid = taken.filter((project) => shortfalls(project).length > 0 && wordOf(project.id) === "");
  const lockable = open.filter((project) => obstacles(project).length === 0 && !state.results.has(project.id));
  if (cycle.number === null) return <NoPeriod />;
  const shown = cycle.projects.filter(({ id }) => open.some((each) => each.id === id) || state.results.has(id));
  return (
    <div className="page">
      <div className="flex flex-wrap items-baseline gap-x-4 pb-1">
        <h1 className="text-xl">
          Lock period {cycle.number}, to {dateWords(cycle.dataDate)}
        </h1>
        <p className="muted text-sm">
          What is locked is issued as it stands; time that comes later lands after it. Projects of which something falls
          short are left out until a word says why they are locked all the same.
        </p>
      </div>
      {shown.length === 0 ? (
        <p className="py-6">
          {only === null
            ? "Every project that takes part has locked this period."
            : "This project has locked the period, or takes no part in it."}{" "}
          <Link className="underline" to="/cycle">
            To the cycle
          </Link>
        </p>
      ) : (
        <>
          <Effect lines={taken.flatMap(({ id }) => lines.get(id) ?? [])} portfolio={portfolio} />
          <table className="ledger" aria-label="What will be locked">
            <Head
              all={lockable.length > 0 && lockable.every(({ id }) => chosen.has(id))}
              onAll={(on) => setChosen(new Set(on ? lockable.map(({ id }) => id) : []))}
            />
            <tbody>
              {shown.map((project) => (
                <LockRow
                  key={project.id}
                  project={project}
                  line={lines.get(project.id)}
                  chosen={chosen.has(project.id)}
                  word={words[project.id] ?? ""}
                  result={state.results.has(project.id)}
                  fault={state.faults.get(project.id)}
                  onChoose={(on) =>
                    setChosen(new Set(on ? [...chosen, project.id] : [...chosen].filter((id) => id !== project.id)))
                  }
                  onWord={(word) => setWords({ ...words, [project.id]: word })}
                />
              ))}
            </tbody>
          </table>
          <div className="flex flex-wrap items-end gap-3 pt-3">
            {taken.some((project) => shortfalls(project).length > 0) && (
              <label className="flex flex-col text-sm">
                A word for all that have none of their own
                <input
                  className="input input-sm w-96 max-w-full"
                  value={all}
                  onChange={(event) => setAll(event.target.value)}
                />
              </label>
            )}
            <LockNow taken={taken} unsaid={unsaid} locking={locking} />
          </div>
        </>
      )}
    </div>
  );
}

/** What will be locked, project by project: what falls short, what it comes to, chosen or left out. */
export function LockPage() {
  const portfolio = useQuery(portfolioQuery);
  const cycle = useQuery(cycleQuery);
  return (
    <Loaded query={cycle}>
      {(found) => <Loaded query={portfolio}>{(all) => <Locking cycle={found} portfolio={all} />}</Loaded>}
    </Loaded>
  );
}
