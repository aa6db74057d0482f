import type { EffectView as Effect } from "@chronometra/contract";
import type { ReactNode } from "react";
import { Toned } from "./Toned.tsx";
import {
  dateWords,
  DEADLINE_TONES,
  driftTone,
  fromToWords,
  money,
  movedWords,
  ratioWords,
  standingWords,
  type DeadlineState,
} from "../words/words.ts";

function Moves({ title, moves }: { title: string; moves: Effect["activities"] }) {
  if (moves.length === 0) return null;
  return (
    <section className="mt-2">
      <h3 className="text-sm">
        {title} <span className="muted font-sans">{moves.length}</span>
      </h3>
      <ul className="max-h-40 overflow-auto text-sm" tabIndex={0} aria-label={title}>
        {moves.map(({ id, name, from, to, days, clock }) => (
          <li key={id} className="border-b rule py-0.5">
            {name}: {fromToWords({ from, to, clock })}{" "}
            <Toned tone={driftTone(days)}>{days === null ? "" : movedWords(days)}</Toned>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex gap-2 border-b rule py-0.5">
      <dt className="muted w-32 shrink-0">{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}

const standing = (state: string, margin: number | null): ReactNode => (
  <Toned tone={DEADLINE_TONES[state as DeadlineState]}>{standingWords(state as DeadlineState, margin)}</Toned>
);

const moreWords = (amount: number, { minorDigits, currency }: Effect): string =>
  `${money(Math.abs(amount), minorDigits)} ${currency} ${amount < 0 ? "less" : "more"}`;

/** What a list of changes would move, in words: finish, cost, milestones, deadlines and activities. */
export function EffectView({ effect }: { effect: Effect }) {
  const { finish, cost, performance, minorDigits: digits } = effect;
  const still =
    finish === null &&
    effect.milestones.length === 0 &&
    effect.deadlines.length === 0 &&
    effect.activities.length === 0;
  return (
    <div>
      <dl className="text-sm">
        <Row name="Project finish">
          {finish === null ? (
            "stays"
          ) : (
            <>
              {fromToWords(finish)}{" "}
              <Toned tone={driftTone(finish.days)}>{finish.days === null ? "" : movedWords(finish.days)}</Toned>
            </>
          )}
        </Row>
        {cost !== null && (
          <Row name="Actual cost">
            {cost.actualAfter === cost.actualBefore
              ? "stays"
              : `${moreWords(cost.actualAfter - cost.actualBefore, effect)}, ${money(cost.actualAfter, digits)} in all`}
          </Row>
        )}
        {cost !== null && cost.laterAfter !== cost.laterBefore && (
          <Row name="Not counted yet">
            {moreWords(cost.laterAfter - cost.laterBefore, effect)}
            {cost.laterAfter > cost.laterBefore && (
              <>, actual cost once the data date passes {dateWords(cost.laterBy)}</>
            )}
          </Row>
        )}
        {cost !== null && (
          <Row name="EAC from what remains">
            {Math.abs(cost.estimateAfter - cost.estimateBefore) < 0.5 * 10 ** digits ? (
              "stays"
            ) : (
              <Toned tone={cost.estimateAfter > cost.estimateBefore ? "adverse" : "favourable"}>
                {moreWords(cost.estimateAfter - cost.estimateBefore, effect)}, {money(cost.estimateAfter, digits)} in
                all
              </Toned>
            )}
          </Row>
        )}
        {performance !== null &&
          (performance.before.spi !== performance.after.spi || performance.before.cpi !== performance.after.cpi) && (
            <Row name="SPI, CPI">
              {ratioWords(performance.before.spi)} → {ratioWords(performance.after.spi)},{" "}
              {ratioWords(performance.before.cpi)} → {ratioWords(performance.after.cpi)}
            </Row>
          )}
      </dl>
      {effect.deadlines.length > 0 && (
        <section className="mt-2">
          <h3 className="text-sm">Deadlines</h3>
          <ul className="text-sm">
            {effect.deadlines.map(({ id, name, before, after }) => (
              <li key={id} className="border-b rule py-0.5">
                {name}: {before === null ? "none" : standing(before.state, before.marginDays)} →{" "}
                {after === null ? "none" : standing(after.state, after.marginDays)}
              </li>
            ))}
          </ul>
        </section>
      )}
      <Moves title="Milestones that move" moves={effect.milestones} />
      <Moves title="Activities whose finish moves" moves={effect.activities} />
      {still && <p className="muted mt-2 text-sm">No date moves.</p>}
    </div>
  );
}
