import { Toned } from "../../../shared/dialogs/Toned.tsx";
import {
  dateWords,
  DEADLINE_TONES,
  type DeadlineState,
  driftTone,
  money,
  movedWords,
  standingWords,
} from "../../../shared/words/words.ts";
import type { Drawn } from "./useChartDrag.ts";

const MOST = 5;
const WIDTH = 330;
const moved = (days: number | null): string => movedWords(days);

/** Beside the pointer while something is dragged: what letting go would do. */
export function DragNote({
  drawn: { words, replaces, fault, effect, at },
  minorDigits,
  currency,
}: {
  drawn: Drawn;
  minorDigits: number;
  currency: string;
}) {
  const still =
    effect !== null && effect.finish === null && effect.activities.length === 0 && effect.milestones.length === 0;
  const cost = effect?.cost ?? null;
  const more = cost === null ? 0 : cost.estimateAfter - cost.estimateBefore;
  return (
    <div
      role="status"
      className="pointer-events-none fixed z-40 border border-base-content bg-base-100 px-2.5 py-1.5 text-[13px]"
      style={{
        left: Math.min(at.x + 16, innerWidth - WIDTH - 8),
        top: at.y > innerHeight / 2 ? undefined : at.y + 18,
        bottom: at.y > innerHeight / 2 ? innerHeight - at.y + 14 : undefined,
        width: WIDTH,
      }}
    >
      <p className="font-semibold">{words}</p>
      {replaces !== null && <p className="undecided">In the place of its date wish: {replaces}</p>}
      {fault !== null && <p className="adverse">{fault}</p>}
      {still && <p className="muted">No date moves.</p>}
      {effect !== null && !still && (
        <ul>
          {effect.finish !== null && (
            <li>
              Project finish {dateWords(effect.finish.to)},{" "}
              <Toned tone={driftTone(effect.finish.days)}>{moved(effect.finish.days)}</Toned>
            </li>
          )}
          {effect.milestones.slice(0, MOST).map(({ id, name, to, days }) => (
            <li key={id} className="truncate">
              {name}: {dateWords(to)}, <Toned tone={driftTone(days)}>{moved(days)}</Toned>
            </li>
          ))}
          {effect.milestones.length > MOST && (
            <li className="muted">and {effect.milestones.length - MOST} milestones more</li>
          )}
          {effect.deadlines.slice(0, MOST).map(
            ({ id, name, after }) =>
              after !== null && (
                <li key={id} className="truncate">
                  Deadline of {name}:{" "}
                  <Toned tone={DEADLINE_TONES[after.state as DeadlineState]}>
                    {standingWords(after.state as DeadlineState, after.marginDays)}
                  </Toned>
                </li>
              ),
          )}
          <li className="muted">
            {effect.activities.length} other {effect.activities.length === 1 ? "activity moves" : "activities move"}
          </li>
          {more !== 0 && (
            <li>
              <Toned tone={more > 0 ? "adverse" : "favourable"}>
                {money(Math.abs(more), minorDigits)} {currency} {more > 0 ? "more" : "less"} at completion
              </Toned>
            </li>
          )}
        </ul>
      )}
      <p className="muted">Escape cancels.</p>
    </div>
  );
}
