import type { WorkProps } from "./workProps.ts";
import { formatHours } from "@chronometra/core";
import { money } from "../../../shared/words/words.ts";
import { WorkPeople } from "./WorkPeople.tsx";
import { WorkCosts } from "./WorkCosts.tsx";

/** Who works on the activity and what else it costs. */
export function WorkTab(props: WorkProps) {
  const { row, work } = props;
  if (row.kind === "summary")
    return (
      <p className="muted">
        All below it comes to {formatHours(row.plannedMinutes)} and {money(row.budgetMinor, work.minorDigits)}{" "}
        {work.currency}. People and costs stand on the activities below.
      </p>
    );
  return (
    <div className="flex flex-col gap-y-3">
      <div>
        <WorkPeople {...props} />
      </div>
      <div>
        <WorkCosts {...props} />
      </div>
      <p className="muted w-full">
        Planned cost {money(row.budgetMinor, work.minorDigits)} {work.currency}, {formatHours(row.plannedMinutes)} of
        work.
      </p>
    </div>
  );
}
