import type { BeginEffectAsked } from "@chronometra/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { DateField } from "../shared/fields/DateField.tsx";
import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import { CalledForm } from "./said/CalledForm.tsx";
import { CurrencyField, isCurrency } from "./said/CurrencyField.tsx";
import {
  handSource,
  milestoneFault,
  monthsBetween,
  newMilestone,
  newStage,
  stageFault,
  type TypedMilestone,
  type TypedStage,
} from "./handRows.ts";
import { Outcome } from "./seen/Outcome.tsx";
import { ALL_ALONG, useBegin } from "./useBegin.ts";

const Fault = ({ words }: { readonly words: string | null }) =>
  words === null ? null : (
    <span role="alert" className="adverse block text-sm">
      {words}
    </span>
  );

interface StagesProps {
  readonly stages: readonly TypedStage[];
  readonly currency: string;
  readonly onChange: (stages: TypedStage[]) => void;
}

/** Stages or months, with their days and budget. */
function Stages({ stages, currency, onChange }: StagesProps) {
  const set = (id: string, part: Partial<TypedStage>): void =>
    onChange(stages.map((stage) => (stage.id === id ? { ...stage, ...part } : stage)));
  return (
    <table className="ledger max-w-5xl" aria-label="Stages">
      <thead>
        <tr>
          <th>Stage</th>
          <th>From</th>
          <th>To</th>
          <th className="num">Budget, {currency}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {stages.map((stage, i) => (
          <tr key={stage.id}>
            <td>
              <input
                className="input input-sm w-72"
                aria-label={`Stage, ${i + 1}`}
                maxLength={200}
                value={stage.name}
                onChange={(event) => set(stage.id, { name: event.target.value })}
              />
              <Fault words={stageFault(stage, currency)} />
            </td>
            <td>
              <DateField label={`From, ${i + 1}`} small value={stage.from} onDate={(from) => set(stage.id, { from })} />
            </td>
            <td>
              <DateField label={`To, ${i + 1}`} small value={stage.to} onDate={(to) => set(stage.id, { to })} />
            </td>
            <td className="num">
              <input
                className="input input-sm w-32 text-right"
                aria-label={`Budget, ${i + 1}`}
                inputMode="decimal"
                value={stage.budget}
                onChange={(event) => set(stage.id, { budget: event.target.value })}
              />
            </td>
            <td>
              <RemoveButton
                what={`stage ${i + 1}`}
                onRemove={() => onChange(stages.filter(({ id }) => id !== stage.id))}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A stage for each month between two days. */
function ByMonth({ onMonths }: { readonly onMonths: (stages: TypedStage[]) => void }) {
  const [from, setFrom] = useState("");
  const [to, setTo] = useState("");
  const months = monthsBetween(from, to);
  return (
    <fieldset className="flex flex-wrap items-center gap-2 pt-2 text-sm">
      <legend className="sr-only">A stage for each month</legend>
      <span className="muted">A stage for each month from</span>
      <DateField label="Months from" small value={from} onDate={setFrom} />
      <span className="muted">to</span>
      <DateField label="Months to" small value={to} onDate={setTo} />
      <button type="button" className="btn btn-sm" disabled={months.length === 0} onClick={() => onMonths(months)}>
        Add {months.length === 0 ? "months" : `${months.length} months`}
      </button>
    </fieldset>
  );
}

interface MilestonesProps {
  readonly milestones: readonly TypedMilestone[];
  readonly onChange: (milestones: TypedMilestone[]) => void;
}

const Milestones = ({ milestones, onChange }: MilestonesProps) => (
  <ul className="flex flex-col gap-1" aria-label="Milestones">
    {milestones.map((milestone, i) => {
      const set = (part: Partial<TypedMilestone>): void =>
        onChange(milestones.map((each) => (each.id === milestone.id ? { ...each, ...part } : each)));
      return (
        <li key={milestone.id} className="flex flex-wrap items-center gap-2">
          <input
            className="input input-sm w-72"
            aria-label={`Milestone, ${i + 1}`}
            maxLength={200}
            value={milestone.name}
            onChange={(event) => set({ name: event.target.value })}
          />
          <DateField label={`On, ${i + 1}`} small value={milestone.date} onDate={(date) => set({ date })} />
          <RemoveButton
            what={`milestone ${i + 1}`}
            onRemove={() => onChange(milestones.filter(({ id }) => id !== milestone.id))}
          />
          <Fault words={milestoneFault(milestone)} />
        </li>
      );
    })}
  </ul>
);

/** A project without a plan of its work: stages or months with their budget, milestones, and percent by hand. */
export function HandPage() {
  const [stages, setStages] = useState<TypedStage[]>(() => [newStage()]);
  const [milestones, setMilestones] = useState<TypedMilestone[]>(() => [newMilestone()]);
  const [currency, setCurrency] = useState("EUR");
  const begin = useBegin();
  const source = isCurrency(currency) ? handSource(stages, milestones, currency) : null;
  const asked: BeginEffectAsked | null =
    source === null ? null : { parts: [{ source, times: {} }], along: ALL_ALONG, date: { asIs: true } };
  return (
    <div className="page">
      <h1 className="text-xl">Begin without a plan</h1>
      <p className="muted max-w-prose pb-3 text-sm">
        Stages or months with their days and budget, and milestones. How far each is, is said by hand, a percent a
        stage, on the page of the plan; the project takes part in periods, sums and reports like every other.
      </p>
      <Stages stages={stages} currency={currency} onChange={setStages} />
      <button type="button" className="btn btn-sm mt-1" onClick={() => setStages([...stages, newStage()])}>
        <Plus size={14} aria-hidden="true" /> A stage
      </button>
      <ByMonth
        onMonths={(months) =>
          setStages([...stages.filter((stage) => stage.name !== "" || stage.from !== ""), ...months])
        }
      />
      <h2 className="pt-4 pb-1 text-base">Milestones</h2>
      <Milestones milestones={milestones} onChange={setMilestones} />
      <button type="button" className="btn btn-sm mt-1" onClick={() => setMilestones([...milestones, newMilestone()])}>
        <Plus size={14} aria-hidden="true" /> A milestone
      </button>
      <CalledForm
        isReady={asked !== null}
        isBusy={begin.isPending}
        error={begin.error}
        onBegin={(called) => asked !== null && begin.mutate({ ...asked, ...called, roles: {} })}
      >
        <CurrencyField value={currency} onChange={setCurrency} />
      </CalledForm>
      <Outcome asked={asked} wanting="Say a stage with its days, or a milestone with its day." />
    </div>
  );
}
