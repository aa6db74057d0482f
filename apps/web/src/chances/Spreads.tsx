import type { ChancesView } from "@chronometra/contract";
import { useMemo } from "react";
import { dateWords, money, numberWords } from "../shared/words/words.ts";
import { JointChart } from "./JointChart.tsx";
import { SpreadChart } from "./SpreadChart.tsx";

/** The first bar at or after a date or amount. */
const barAt = <T,>(bars: readonly T[], isThere: (bar: T) => boolean): number => bars.findIndex(isThere);

/** How the runs spread: their finishes, their costs, and both together. */
export function Spreads({ view }: { view: ChancesView }) {
  const { finish, cost, minorDigits: digits, currency } = view;
  const amount = (value: number): string => `${money(value, digits)} ${currency}`;
  const finishBars = useMemo(() => view.finishes.map(({ date, runs }) => ({ label: dateWords(date), runs })), [view]);
  const costBars = useMemo(
    () => view.costs.map(({ to, runs }) => ({ label: money(to, digits), runs })),
    [view, digits],
  );
  const finishMarks = useMemo(
    () => [
      { label: "plan", at: barAt(view.finishes, ({ date }) => date >= finish.planned) },
      { label: "P50", at: barAt(view.finishes, ({ date }) => date >= finish.p50) },
      { label: "P80", at: barAt(view.finishes, ({ date }) => date >= finish.p80) },
    ],
    [view, finish],
  );
  const costMarks = useMemo(
    () => [
      { label: "plan", at: barAt(view.costs, ({ to }) => to >= cost.planned) },
      { label: "P50", at: barAt(view.costs, ({ to }) => to >= cost.p50) },
      { label: "P80", at: barAt(view.costs, ({ to }) => to >= cost.p80) },
    ],
    [view, cost],
  );
  return (
    <div className="grid gap-6 lg:grid-cols-3">
      <section aria-label="Finish">
        <h2 className="pt-2 text-base">Finish</h2>
        <SpreadChart
          name="Finish"
          words={`Finishes of ${numberWords(view.runs)} runs, from ${dateWords(view.finishes[0]!.date)} to ${dateWords(view.finishes.at(-1)!.date)}; half by ${dateWords(finish.p50)}, 80 of 100 by ${dateWords(finish.p80)}`}
          bars={finishBars}
          marks={finishMarks}
        />
        <p className="muted text-xs">
          10 of 100 by {dateWords(finish.p10)}, 90 by {dateWords(finish.p90)}
        </p>
      </section>
      <section aria-label="Cost">
        <h2 className="pt-2 text-base">Cost</h2>
        <SpreadChart
          name="Cost"
          words={`Costs of ${numberWords(view.runs)} runs; half up to ${amount(cost.p50)}, 80 of 100 up to ${amount(cost.p80)}`}
          bars={costBars}
          marks={costMarks}
        />
        <p className="muted text-xs">
          10 of 100 up to {amount(cost.p10)}, 90 up to {amount(cost.p90)}
        </p>
      </section>
      <section aria-label="Both">
        <h2 className="pt-2 text-base">Both</h2>
        <JointChart view={view} />
        <p className="muted text-xs">a point a run; the lines are the plan</p>
      </section>
    </div>
  );
}
