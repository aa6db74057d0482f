import { shortfalls, type Portfolio, type ProjectCycle, type ProjectLine } from "@chronometra/contract";
import { Link } from "react-router";
import { laterAndEarlier, movedOf, moveWords } from "../../project/logLines.ts";
import { figuresTogether } from "../../project/together.ts";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import { countWords, driftTone, indexTone, money, ratioWords } from "../../shared/words/words.ts";

const openOf = (project: ProjectCycle, step: string): number => project.steps.find(({ name }) => name === step)!.open;

/** What keeps a project from being locked at all. */
export function obstacles(project: ProjectCycle): string[] {
  const waiting = openOf(project, "Review");
  return [
    ...(waiting > 0 ? [`${countWords(waiting, "report waits", "reports wait")} for a decision`] : []),
    ...(openOf(project, "Recalculate") > 0 && !project.issued ? ["its data date is behind the period's"] : []),
  ];
}

const index = (value: number | null) => (
  <Toned tone={indexTone(value)} marked>
    {ratioWords(value)}
  </Toned>
);

/** What the projects chosen come to, as they would be locked: the figures of the portfolio for this period. */
export function Effect({ lines, portfolio }: { lines: readonly ProjectLine[]; portfolio: Portfolio }) {
  const together = figuresTogether(lines, portfolio);
  const moved = laterAndEarlier(lines.flatMap((line) => movedOf(line) ?? []));
  return (
    <p className="pb-2 text-sm" role="status">
      {countWords(lines.length, "project as it stands", "projects as they stand")}
      {together !== null && (
        <>
          : BAC {money(together.figures.bac, together.summedIn.minorDigits)}, EV{" "}
          {money(together.figures.ev, together.summedIn.minorDigits)}, AC{" "}
          {money(together.figures.ac, together.summedIn.minorDigits)} {together.summedIn.currency}, SPI{" "}
          {index(together.figures.spi)}, CPI {index(together.figures.cpi)}
        </>
      )}
      . {lines.length > 0 && <>Against the period before, {moved ?? "no finish has moved"}.</>}
    </p>
  );
}

/** What keeps a project from being locked, or falls short. */
function Standing({ project }: { project: ProjectCycle }) {
  const [stops, short] = [obstacles(project), shortfalls(project)];
  if (stops.length === 0)
    return short.length === 0 ? (
      <span className="muted">nothing falls short</span>
    ) : (
      <span className="undecided">{short.join("; ")}</span>
    );
  return (
    <span className="adverse">
      cannot be locked:{" "}
      <Link
        className="link-quiet"
        to={openOf(project, "Review") > 0 ? `/time?project=${project.id}` : "/cycle/data-dates"}
      >
        {stops.join(", ")}
      </Link>
    </span>
  );
}

/** A project about to be locked: what stands against it, what it would say, and its tick. */
export function LockRow({
  project,
  line,
  chosen,
  word,
  result,
  fault,
  onChoose,
  onWord,
}: {
  project: ProjectCycle;
  line: ProjectLine | undefined;
  chosen: boolean;
  word: string;
  result: boolean;
  fault: string | undefined;
  onChoose: (on: boolean) => void;
  onWord: (word: string) => void;
}) {
  const isFree = !result && obstacles(project).length === 0;
  const isToBeSaid = !result && chosen && shortfalls(project).length > 0;
  const figures = line?.summary.figures;
  const moved = line === undefined ? null : movedOf(line);
  return (
    <tr>
      <td>
        {isFree && (
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            aria-label={`Lock ${project.name}`}
            checked={chosen}
            onChange={(event) => onChoose(event.target.checked)}
          />
        )}
      </td>
      <td className="whitespace-nowrap">
        <Link className="link-quiet" to={`/cycle?project=${project.id}`}>
          <span className="muted">{project.code}</span> {project.name}
        </Link>
      </td>
      <td className="num">{ratioWords(figures?.spi ?? null)}</td>
      <td className="num">{ratioWords(figures?.cpi ?? null)}</td>
      <td className="num">{moved === null ? "–" : <Toned tone={driftTone(moved)}>{moveWords(moved)}</Toned>}</td>
      <td>
        {result ? <span className="favourable">locked</span> : <Standing project={project} />}
        {fault !== undefined && <span className="adverse block">{fault}</span>}
      </td>
      <td>
        {isToBeSaid && (
          <input
            className="input input-sm w-64 max-w-full"
            aria-label={`Why ${project.name} is locked all the same`}
            placeholder="why all the same"
            value={word}
            onChange={(event) => onWord(event.target.value)}
          />
        )}
      </td>
    </tr>
  );
}
