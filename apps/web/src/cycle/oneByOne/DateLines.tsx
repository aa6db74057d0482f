import type { EffectView as Effect, ProjectLine } from "@chronometra/contract";
import { Link } from "react-router";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import {
  countWords,
  dateWords,
  driftTone,
  indexTone,
  money,
  movedWords,
  ratioWords,
  varianceTone,
} from "../../shared/words/words.ts";

const moved = (days: number | null): string => movedWords(days, "stays");
const LOST = new Set(["breached", "willBreach"]);

/** Deadlines that are kept now and would not be. */
const newlyLost = ({ deadlines }: Effect): Effect["deadlines"] =>
  deadlines.filter(
    ({ before, after }) => after !== null && LOST.has(after.state) && (before === null || !LOST.has(before.state)),
  );

function Index({ before, after }: { before: number | null; after: number | null }) {
  return before === after ? (
    <>{ratioWords(after)}</>
  ) : (
    <>
      {ratioWords(before)} →{" "}
      <Toned tone={indexTone(after)} marked>
        {ratioWords(after)}
      </Toned>
    </>
  );
}

/** What moving its data date would do to one project. */
function Cells({ effect, digits }: { effect: Effect; digits: number }) {
  const { finish, performance } = effect;
  const lost = newlyLost(effect);
  return (
    <>
      <td className="num">
        {finish === null ? (
          <span className="muted">stays</span>
        ) : (
          <Toned tone={driftTone(finish.days)}>{moved(finish.days)}</Toned>
        )}
      </td>
      <td className="num">
        {effect.activities.length + effect.milestones.length === 0 ? (
          <span className="muted">none</span>
        ) : (
          effect.activities.length + effect.milestones.length
        )}
      </td>
      <td>
        {lost.length === 0 ? (
          <span className="muted">none</span>
        ) : (
          <span className="adverse" title={lost.map(({ name }) => name).join("\n")}>
            {countWords(lost.length, "deadline", "deadlines")}
          </span>
        )}
      </td>
      <td className="num">
        {performance === null ? (
          "–"
        ) : (
          <>
            <Toned tone={varianceTone(performance.after.cv)}>{money(performance.after.cv, digits)}</Toned>
          </>
        )}
      </td>
      <td className="num">
        {performance === null ? "–" : <Index before={performance.before.spi} after={performance.after.spi} />}
      </td>
      <td className="num">
        {performance === null ? "–" : <Index before={performance.before.cpi} after={performance.after.cpi} />}
      </td>
    </>
  );
}

interface LineProps {
  readonly line: ProjectLine;
  readonly isBehind: boolean;
  readonly chosen: boolean;
  /** What it would move; where that was not asked, or has been done, how it went. */
  readonly effect: Effect | undefined;
  readonly why: string | undefined;
  readonly moved: boolean;
  readonly opened: boolean;
  readonly onChoose: (on: boolean) => void;
  readonly onOpen: () => void;
}

/** One project whose data date is to move. */
export function Line({ line, isBehind, chosen, effect, why, moved, opened, onChoose, onOpen }: LineProps) {
  return (
    <tr>
      <td>
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          aria-label={`Move ${line.name}`}
          checked={chosen}
          onChange={(event) => onChoose(event.target.checked)}
        />
      </td>
      <td className="whitespace-nowrap">
        <Link className="link-quiet" to={`/projects/${line.id}/plan`}>
          <span className="muted">{line.code}</span> {line.name}
        </Link>
      </td>
      <td className={`whitespace-nowrap ${isBehind ? "undecided" : ""}`}>
        {dateWords(line.summary.dataDate)}
        {isBehind && ", behind"}
      </td>
      {effect !== undefined ? (
        <Cells effect={effect} digits={line.summary.minorDigits} />
      ) : (
        <td colSpan={6} className={why === undefined ? "muted" : "adverse"}>
          {why ?? (moved ? <span className="favourable">moved</span> : "")}
        </td>
      )}
      <td>
        {effect !== undefined && (
          <button type="button" className="btn btn-xs" aria-expanded={opened} onClick={onOpen}>
            all of it
          </button>
        )}
      </td>
    </tr>
  );
}
