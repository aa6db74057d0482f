import type { Explanation } from "@chronometra/core";
import { X } from "lucide-react";
import { useEffect, useState, type ReactNode } from "react";
import { countWords, dateWords } from "../shared/words.ts";
import type { PlanSession } from "./planSession.ts";
import type { Sheet, SheetRow } from "./sheet.ts";
import { holdWords, reasonWords } from "./whyWords.ts";

interface Props {
  readonly row: SheetRow | null;
  /** What is told holds for the plan as it is on this sheet. */
  readonly sheet: Sheet;
  readonly session: PlanSession;
  readonly onClose: () => void;
}

/** The reasons of the row, asked for again whenever the row or the plan is another. */
function useExplanation(id: string | null, sheet: Sheet, session: PlanSession): Explanation | null | undefined {
  const [told, setTold] = useState<{ id: string; explanation: Explanation | null } | null>(null);
  useEffect(() => {
    let current = true;
    if (id !== null) void session.explain(id).then((explanation) => current && setTold({ id, explanation }));
    return () => void (current = false);
  }, [id, sheet, session]);
  return told?.id === id ? told?.explanation : undefined;
}

function Lines({ children, empty }: { children: readonly ReactNode[]; empty: string }) {
  return children.length === 0 ? <p className="muted">{empty}</p> : <ul>{children}</ul>;
}

const mark = (decides: boolean): ReactNode => <span aria-label={decides ? "decides" : "does not decide"} className={decides ? "text-accent" : "muted"}>{decides ? "◆" : "◇"} </span>;

function floatWords({ dates, dayMinutes }: SheetRow): string {
  if (dates?.floatMinutes == null) return "";
  const days = Math.round((dates.floatMinutes / dayMinutes) * 10) / 10;
  return days < 0 ? ` It is ${-days} d short of what its deadlines and wishes allow.` : days === 0 ? " It has no float: what it loses, the finish loses." : ` It may move ${days} d before the finish does.`;
}

function Told({ row, explanation }: { row: SheetRow; explanation: Explanation }) {
  const { reasons, chain, holds, heldAllTheWay } = explanation;
  return (
    <div className="grid gap-x-8 md:grid-cols-2">
      <section>
        <h3 className="text-sm">Why {row.name} lies at {dateWords(row.dates!.startDate)} to {dateWords(row.dates!.finishDate)}</h3>
        <Lines empty="Nothing holds it.">{reasons.map((reason, i) => <li key={i}>{mark(reason.decides)}{reasonWords(reason)}</li>)}</Lines>
        {chain.length > 0 && <p className="muted">The whole way: {chain.map(({ name }) => name).join(" → ")} → {row.name}</p>}
      </section>
      <section>
        <h3 className="text-sm">What it holds{heldAllTheWay > 0 && <span className="muted font-sans"> · {countWords(heldAllTheWay, "activity lies", "activities lie")} where it does because of this, all the way</span>}</h3>
        <Lines empty="Nothing comes after it.">{holds.map((hold, i) => <li key={i}>{mark(hold.decides)}{holdWords(hold)}</li>)}</Lines>
        <p className="muted">{floatWords(row)}</p>
      </section>
    </div>
  );
}

const PLACELESS: Record<SheetRow["kind"], string> = { summary: "A summary lies where what is below it lies.", levelOfEffort: "Level of effort spans what it is linked to and holds nothing.", work: "It has no dates: give it a length.", milestone: "It has no dates." };

/** Why the row the keyboard stands on lies where it does, in words, and what it holds in turn. */
export function WhyPanel({ row, sheet, session, onClose }: Props) {
  const explanation = useExplanation(row?.id ?? null, sheet, session);
  return (
    <aside aria-label="Why" aria-live="polite" className="relative max-h-44 shrink-0 overflow-auto border-t border-base-content bg-base-100 px-4 py-2 text-[13px]" tabIndex={0}>
      <button type="button" className="absolute top-1 right-2 p-1 cursor-pointer" aria-label="Close the reasons" onClick={onClose}><X size={14} aria-hidden="true" /></button>
      {row === null ? <p className="muted">Choose a row.</p> : row.parked ? <p className="muted">{row.name} is parked and counts for nothing.</p> : explanation === undefined ? <p className="muted" role="status">…</p> : explanation === null || row.dates === null ? <p className="muted">{PLACELESS[row.kind]}</p> : <Told row={row} explanation={explanation} />}
    </aside>
  );
}
