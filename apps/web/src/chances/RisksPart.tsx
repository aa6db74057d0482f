import type { ChancesView } from "@chronometra/contract";
import type { Change, Risk } from "@chronometra/core";
import { useState } from "react";
import { NameChoice } from "../shared/fields/NameChoice.tsx";
import { money, numberWords, percentWords } from "../shared/words/words.ts";
import { draftOf, NO_POINTS, NO_RISK, readRisk, type Points, type RiskDraft } from "./riskDraft.ts";

interface Props {
  readonly view: ChancesView;
  readonly mayEdit: boolean;
  readonly change: (changes: readonly Change[], words: string) => Promise<string | null>;
}

const POINTS = ["least", "likeliest", "most"] as const;

/** The fields of three points, named one by one. */
function Three({
  label,
  points,
  onPoints,
  width = "w-16",
}: {
  label: string;
  points: Points;
  onPoints: (points: Points) => void;
  width?: string;
}) {
  return POINTS.map((name, i) => (
    <input
      key={name}
      className={`input input-sm ${width} text-right`}
      inputMode="decimal"
      aria-label={`${label}, ${name}`}
      placeholder={name}
      value={points[i]}
      onChange={(event) => onPoints(points.map((was, k) => (k === i ? event.target.value : was)) as unknown as Points)}
    />
  ));
}

/** How many days longer one activity takes; leaving it out gives none. */
function Longer({ name, days, onDays }: { name: string; days: Points; onDays: (days: Points | null) => void }) {
  return (
    <fieldset className="flex flex-wrap items-center gap-1">
      <legend className="sr-only">Days that {name} takes longer</legend>
      <span className="w-72 truncate" title={name}>
        {name}
      </span>
      <Three label={`${name} longer`} points={days} onPoints={onDays} />
      <span className="muted">days longer</span>
      <button type="button" className="btn btn-xs" aria-label={`Leave out ${name}`} onClick={() => onDays(null)}>
        ×
      </button>
    </fieldset>
  );
}

interface FormProps {
  readonly view: ChancesView;
  readonly nameOf: (activity: string) => string;
  /** The risk that is changed; `null` for a new one. */
  readonly risk: Risk | null;
  /** Gives why it cannot be kept, or nothing. */
  readonly onKeep: (read: Omit<Risk, "id">) => Promise<string | null>;
  readonly onLeave: () => void;
}

/** What may happen, how likely it is, what it adds to which activities, and what it costs. */
function RiskForm({ view, nameOf, risk, onKeep, onLeave }: FormProps) {
  const [draft, setDraft] = useState<RiskDraft>(risk === null ? NO_RISK : draftOf(risk, view));
  const [round, setRound] = useState(0);
  const [fault, setFault] = useState<string | null>(null);
  const { effects } = draft;
  const keep = async (): Promise<void> => {
    const read = readRisk(draft, view);
    const failed = typeof read === "string" ? read : await onKeep(read);
    setFault(failed);
    if (failed === null && risk === null) setDraft(NO_RISK);
  };
  const bearOn = (activity: string | null): void => {
    if (activity === null || effects.some((each) => each.activity === activity)) return;
    setDraft({ ...draft, effects: [...effects, { activity, days: effects.at(-1)?.days ?? NO_POINTS }] });
    setRound(round + 1);
  };
  return (
    <form
      aria-label={risk === null ? "A new risk" : `Change ${risk.name}`}
      className="flex flex-col gap-1 py-2 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
      onKeyDown={(event) => event.key === "Escape" && onLeave()}
    >
      <div className="flex flex-wrap items-end gap-2">
        <label className="text-xs">
          What may happen
          <input
            className="input input-sm block w-72 text-sm"
            maxLength={200}
            value={draft.name}
            onChange={(event) => setDraft({ ...draft, name: event.target.value })}
          />
        </label>
        <label className="text-xs">
          Probability, %
          <input
            className="input input-sm block w-16 text-right text-sm"
            inputMode="decimal"
            value={draft.chance}
            onChange={(event) => setDraft({ ...draft, chance: event.target.value })}
          />
        </label>
        <fieldset className="flex items-end gap-1">
          <legend className="text-xs">Extra cost, {view.currency}</legend>
          <Three
            label="Extra cost"
            width="w-24"
            points={draft.cost}
            onPoints={(cost) => setDraft({ ...draft, cost })}
          />
        </fieldset>
      </div>
      {effects.map(({ activity, days }) => (
        <Longer
          key={activity}
          name={nameOf(activity)}
          days={days}
          onDays={(next) =>
            setDraft({
              ...draft,
              effects: effects.flatMap((each) =>
                each.activity !== activity ? [each] : next === null ? [] : [{ activity, days: next }],
              ),
            })
          }
        />
      ))}
      <div className="flex flex-wrap items-center gap-2">
        <NameChoice
          key={round}
          label={effects.length === 0 ? "Activity it bears on" : "Another activity"}
          things={view.open}
          onChoose={bearOn}
          width="w-72"
        />
        <button className="btn btn-sm">{risk === null ? "Add the risk" : "Save the change"}</button>
        {risk !== null && (
          <button type="button" className="btn btn-ghost btn-sm" onClick={onLeave}>
            Cancel
          </button>
        )}
      </div>
      {fault !== null && (
        <p role="alert" className="adverse">
          {fault}
        </p>
      )}
    </form>
  );
}

/** A risk in words: `30%: 2 to 10 d more on Dig, likeliest 5; 1 000 to 4 000 EUR`. */
function riskWords(
  { probability, effects, costMinor }: Risk,
  { dayMinutes, minorDigits, currency }: ChancesView,
  nameOf: (activity: string) => string,
): string {
  const days = (minutes: number): string => numberWords(minutes / dayMinutes);
  const parts = effects.map(
    ({ activity, minutes: { low, likely, high } }) =>
      `${days(low)} to ${days(high)} d more on ${nameOf(activity)}, likeliest ${days(likely)}`,
  );
  if (costMinor !== undefined)
    parts.push(
      `${money(costMinor.low, minorDigits)} to ${money(costMinor.high, minorDigits)} ${currency}, likeliest ${money(costMinor.likely, minorDigits)}`,
    );
  return `${percentWords(probability, 1)}: ${parts.join("; ")}`;
}

/** What may happen besides: each risk in words, to be changed or taken out, and a new one. */
export function RisksPart({ view, mayEdit, change }: Props) {
  const [changed, setChanged] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const names = new Map([...view.open, ...view.bornOn].map(({ id, name }) => [id, name]));
  const nameOf = (activity: string): string => names.get(activity) ?? activity;
  const add = (read: Omit<Risk, "id">): Promise<string | null> => {
    const id = crypto.randomUUID().slice(0, 13);
    return change(
      [{ type: "addRow", table: "risks", key: id, row: { id, ...read } }],
      `The risk ${read.name} is in the plan.`,
    );
  };
  const rewrite = async (id: string, { costMinor, ...read }: Omit<Risk, "id">): Promise<string | null> => {
    const failed = await change(
      [{ type: "editRow", table: "risks", key: id, set: { ...read, costMinor: costMinor ?? null } }],
      `The risk ${read.name} is changed.`,
    );
    if (failed === null) setChanged(null);
    return failed;
  };
  const takeOut = async ({ id, name }: Risk): Promise<void> =>
    setFault(await change([{ type: "removeRow", table: "risks", key: id }], `The risk ${name} is removed.`));
  return (
    <section aria-label="Risks">
      <h2 className="pt-3 text-base">
        Risks <span className="muted font-sans text-sm">{view.risks.length}</span>
      </h2>
      <ul className="text-sm">
        {view.risks.map((risk) => (
          <li key={risk.id} className="border-b rule py-1">
            {changed === risk.id ? (
              <RiskForm
                view={view}
                nameOf={nameOf}
                risk={risk}
                onKeep={(read) => rewrite(risk.id, read)}
                onLeave={() => setChanged(null)}
              />
            ) : (
              <div className="flex flex-wrap items-baseline gap-x-2">
                <span className="font-semibold">{risk.name}</span>
                <span className="muted">{riskWords(risk, view, nameOf)}</span>
                {mayEdit && (
                  <span className="ml-auto flex gap-1">
                    <button
                      type="button"
                      className="btn btn-xs"
                      aria-label={`Change ${risk.name}`}
                      onClick={() => setChanged(risk.id)}
                    >
                      Change
                    </button>
                    <button
                      type="button"
                      className="btn btn-xs"
                      aria-label={`Remove ${risk.name}`}
                      onClick={() => void takeOut(risk)}
                    >
                      Remove
                    </button>
                  </span>
                )}
              </div>
            )}
          </li>
        ))}
        {view.risks.length === 0 && (
          <li className="muted py-1">None yet. What may happen and what it would add makes the chances honest.</li>
        )}
      </ul>
      {fault !== null && (
        <p role="alert" className="adverse pt-1 text-sm">
          {fault}
        </p>
      )}
      {mayEdit && changed === null && (
        <RiskForm view={view} nameOf={nameOf} risk={null} onKeep={add} onLeave={() => undefined} />
      )}
    </section>
  );
}
