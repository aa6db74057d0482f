import type { ChancesView } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { useState } from "react";
import { NameChoice } from "../shared/NameChoice.tsx";
import { money } from "../shared/words.ts";

interface Props {
  readonly view: ChancesView;
  readonly mayEdit: boolean;
  readonly change: (changes: readonly Change[], words: string) => Promise<string | null>;
}

type Points = readonly [low: string, likely: string, high: string];
const NONE: Points = ["", "", ""];

/** Three numbers as typed, none of them below the one before it; `null` where they are none. */
function readPoints(points: Points, factor: number): { low: number; likely: number; high: number } | null {
  if (points.some((text) => text.trim() === "")) return null;
  const [low, likely, high] = points.map((text) => Math.round(Number(text) * factor)) as [number, number, number];
  return [low, likely, high].every((each) => Number.isFinite(each) && each >= 0) && low <= likely && likely <= high ? { low, likely, high } : null;
}

function Three({ label, unit, points, onPoints, required }: { label: string; unit: string; points: Points; onPoints: (points: Points) => void; required: boolean }) {
  return (
    <fieldset className="flex items-end gap-1">
      <legend className="text-xs">{label}, {unit}: least, likeliest, most</legend>
      {["least", "likeliest", "most"].map((name, i) => <input key={name} className="input input-sm w-16 text-right" inputMode="decimal" aria-label={`${label}, ${name}`} required={required} value={points[i]} onChange={(event) => onPoints(points.map((was, k) => (k === i ? event.target.value : was)) as unknown as Points)} />)}
    </fieldset>
  );
}

/** What may happen besides: how likely, what it would add to which activities, and what it would cost. */
export function RisksPart({ view, mayEdit, change }: Props) {
  const [name, setName] = useState("");
  const [chance, setChance] = useState("");
  const [on, setOn] = useState<readonly string[]>([]);
  const [round, setRound] = useState(0);
  const [days, setDays] = useState<Points>(NONE);
  const [cost, setCost] = useState<Points>(NONE);
  const [fault, setFault] = useState<string | null>(null);
  const names = new Map(view.open.map((each) => [each.id, each.name]));
  const add = async (): Promise<void> => {
    const probability = Number(chance) / 100;
    const minutes = readPoints(days, view.dayMinutes);
    const costMinor = readPoints(cost, 10 ** view.minorDigits);
    if (!(probability > 0 && probability <= 1)) return setFault("Write how likely it is as a percent, as 30.");
    if (on.length === 0) return setFault("Choose an open activity by its name, or several one after another.");
    if (minutes === null) return setFault("Write three numbers of days that do not fall, as 2 5 10.");
    if (costMinor === null && cost.some((text) => text.trim() !== "")) return setFault("Write three amounts that do not fall, or none.");
    const id = crypto.randomUUID().slice(0, 13);
    const failed = await change([{ type: "addRow", table: "risks", key: id, row: { id, name: name.trim(), probability, effects: on.map((activity) => ({ activity, minutes })), ...(costMinor === null ? {} : { costMinor }) } }], `The risk ${name.trim()} is in the plan.`);
    setFault(failed);
    if (failed === null) {
      setName("");
      setChance("");
      setDays(NONE);
      setCost(NONE);
      setOn([]);
    }
  };
  const inDays = (minutes: number): number => Number((minutes / view.dayMinutes).toFixed(1));
  return (
    <section aria-label="Risks">
      <h2 className="pt-3 text-base">Risks <span className="muted font-sans text-sm">{view.risks.length}</span></h2>
      <ul className="text-sm">
        {view.risks.map(({ id, name: called, probability, effects, costMinor }) => (
          <li key={id} className="flex flex-wrap items-baseline gap-x-2 border-b rule py-0.5">
            <span className="font-semibold">{called}</span>
            <span className="muted">{Math.round(probability * 1000) / 10}%: {effects.map(({ activity, minutes: { low, likely, high } }) => `${inDays(low)} to ${inDays(high)} d more on ${names.get(activity) ?? activity}, likeliest ${inDays(likely)}`).join("; ")}{costMinor !== undefined && `; ${money(costMinor.low, view.minorDigits)} to ${money(costMinor.high, view.minorDigits)} ${view.currency}`}</span>
            {mayEdit && <button type="button" className="btn btn-ghost btn-xs ml-auto" aria-label={`Take out ${called}`} onClick={() => void change([{ type: "removeRow", table: "risks", key: id }], `The risk ${called} is taken out.`)}>Take out</button>}
          </li>
        ))}
        {view.risks.length === 0 && <li className="muted py-1">None yet. What may happen and what it would add makes the chances honest.</li>}
      </ul>
      {mayEdit && (
        <form className="flex flex-wrap items-end gap-2 pt-2 text-sm" onSubmit={(event) => { event.preventDefault(); void add(); }}>
          <label className="text-xs">What may happen<input className="input input-sm block w-44 text-sm" required maxLength={200} value={name} onChange={(event) => setName(event.target.value)} /></label>
          <label className="text-xs">Likely, %<input className="input input-sm block w-16 text-right text-sm" inputMode="decimal" required value={chance} onChange={(event) => setChance(event.target.value)} /></label>
          <div className="text-xs">
            <span className="block">Bears on{on.length > 0 && ":"} {on.map((id) => <button key={id} type="button" className="link-quiet mr-1 cursor-pointer" title="Leave it out" onClick={() => setOn(on.filter((each) => each !== id))}>{names.get(id) ?? id} ×</button>)}</span>
            <NameChoice key={round} label="Activity it bears on" things={view.open} onChoose={(id) => { if (id === null || on.includes(id)) return; setOn([...on, id]); setRound(round + 1); }} width="w-52" />
          </div>
          <Three label="Longer" unit="days" points={days} onPoints={setDays} required />
          <Three label="Dearer" unit={view.currency} points={cost} onPoints={setCost} required={false} />
          <button className="btn btn-sm">Add the risk</button>
        </form>
      )}
      {fault !== null && <p role="alert" className="adverse pt-1 text-sm">{fault}</p>}
    </section>
  );
}
