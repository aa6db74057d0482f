import type { ImportAnswers, ImportView } from "@chronometra/contract";
import { useState } from "react";
import { countWords } from "../shared/words/words.ts";

type Problem = ImportView["problems"][number];
type Cell = NonNullable<Problem["cell"]>;
type Sheets = NonNullable<ImportAnswers["sheets"]>;

interface Props {
  readonly view: ImportView;
  readonly onAnswer: (sheets: Sheets) => void;
}

/** What stands against one or several cells that say the same, in the same column. */
interface Line {
  readonly key: string;
  readonly problem: Problem;
  readonly places: readonly string[];
}

/** Problems with cells that say the same for the same reason are one line. */
function linesOf(problems: readonly Problem[]): Line[] {
  const lines = new Map<string, { key: string; problem: Problem; places: string[] }>();
  for (const problem of problems) {
    const { cell, message, place } = problem;
    const isAlike = cell !== undefined && cell.alike > 1 && cell.text !== "";
    const key = isAlike
      ? `${cell.sheet} ${cell.heading} ${cell.text} ${message}`
      : `${place} ${problem.row} ${message}`;
    const known = lines.get(key);
    if (known === undefined) lines.set(key, { key, problem, places: [place] });
    else known.places.push(place);
  }
  return [...lines.values()];
}

/** A sheet's answers with what is meant by all cells of a column that say the same, or by one. */
function meant(said: Sheets, cell: Cell, text: string, all: boolean): Sheets {
  const own = said[cell.sheet] ?? {};
  const next = all
    ? { alike: { ...own.alike, [cell.heading]: { ...own.alike?.[cell.heading], [cell.text]: text } } }
    : { cells: { ...own.cells, [cell.ref]: text } };
  return { ...said, [cell.sheet]: { ...own, ...next } };
}

function Mend({ line: { problem, places }, view, onAnswer }: { line: Line } & Props) {
  const { cell } = problem;
  const [text, setText] = useState(cell?.text ?? "");
  if (cell === undefined) return null;
  const all = places.length > 1 || (cell.alike > 1 && cell.text !== "" && cell.heading !== "");
  const put = (instead: string): void => onAnswer(meant(view.answers.sheets ?? {}, cell, instead, all));
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (text !== cell.text) put(text);
      }}
    >
      <input
        className="input input-xs w-36"
        aria-label={`Write instead at ${problem.place}`}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button className="btn btn-xs" disabled={text === cell.text}>
        {all ? `Mend all ${cell.alike}` : "Mend"}
      </button>
      {cell.text !== "" && (
        <button type="button" className="btn btn-xs btn-ghost" onClick={() => put("")}>
          It means nothing
        </button>
      )}
    </form>
  );
}

const PLACES_SHOWN = 3;

/** All that stands against storing the file, each mended where it is told. */
export function Mending({ view, onAnswer }: Props) {
  // Who is meant by a name is asked above.
  const asked = new Set(view.peopleQuestion.map(({ name }) => name));
  const errors = view.problems.filter(
    ({ level, table, row }) => level === "error" && !(table === "people" && asked.has(row)),
  );
  const more = view.errors - asked.size - errors.length;
  if (errors.length === 0) return null;
  return (
    <section className="pt-4">
      <h2 className="pb-1 text-base">To be mended before it is stored</h2>
      {more > 0 && (
        <p className="muted text-sm">
          The first {errors.length} of {errors.length + more} are shown.
        </p>
      )}
      <div className="max-h-96 overflow-auto" tabIndex={0} role="region" aria-label="To be mended">
        <table className="ledger" aria-label="What is to be mended">
          <thead>
            <tr>
              <th>Where</th>
              <th>Column</th>
              <th>What</th>
              <th>Write instead</th>
            </tr>
          </thead>
          <tbody>
            {linesOf(errors).map((line) => (
              <tr key={line.key}>
                <td className="whitespace-nowrap">
                  {line.places.slice(0, PLACES_SHOWN).join(", ") || line.problem.table}
                  {line.places.length > PLACES_SHOWN && (
                    <span className="muted"> and {line.places.length - PLACES_SHOWN} more</span>
                  )}
                </td>
                <td>{line.problem.cell?.heading ?? line.problem.field}</td>
                <td className="max-w-xl">{line.problem.message}</td>
                <td>
                  <Mend line={line} view={view} onAnswer={onAnswer} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** What was supplied where the file is silent, or deserves a look. */
export function Supplied({ view }: { view: ImportView }) {
  const notices = view.problems.filter(({ level }) => level === "notice");
  if (notices.length === 0) return null;
  return (
    <section className="pt-4">
      <h2 className="pb-1 text-base">How it was read</h2>
      <ul className="max-w-4xl text-sm" aria-label="How it was read">
        {notices.map(({ place, message, field }) => (
          <li key={`${place} ${field} ${message}`} className="border-b rule py-0.5">
            <span className="undecided" aria-hidden="true">
              ◦{" "}
            </span>
            {message} {place !== "" && <span className="muted">{place}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Rows that are no activity and were left out; each can be taken after all. */
export function LeftOut({ view, onAnswer }: Props) {
  const sheets = view.sheets.filter(({ leftOut }) => leftOut.length > 0);
  if (sheets.length === 0) return null;
  const count = sheets.reduce((sum, { leftOut }) => sum + leftOut.filter(({ taken }) => !taken).length, 0);
  const turn = (sheet: string, line: number): void => {
    const said = view.answers.sheets ?? {};
    const turned = said[sheet]?.turned ?? [];
    const next = turned.includes(line) ? turned.filter((each) => each !== line) : [...turned, line];
    onAnswer({ ...said, [sheet]: { ...said[sheet], turned: next } });
  };
  return (
    <details className="pt-3" open={count <= 5}>
      <summary className="cursor-pointer text-base">{countWords(count, "row", "rows")} left out</summary>
      <table className="ledger max-w-4xl" aria-label="Rows left out">
        <tbody>
          {sheets.flatMap(({ name, leftOut }) =>
            leftOut.map(({ line, text, why, taken }) => (
              <tr key={`${name} ${line}`}>
                <td className="whitespace-nowrap">
                  {name} row {line}
                </td>
                <td className="max-w-md truncate" title={text}>
                  {text}
                </td>
                <td className="muted">{taken ? `taken, though it looks like ${why}` : why}</td>
                <td>
                  <button type="button" className="btn btn-xs" onClick={() => turn(name, line)}>
                    {taken ? "Leave it out" : "Take it"}
                  </button>
                </td>
              </tr>
            )),
          )}
        </tbody>
      </table>
    </details>
  );
}
