import { telling } from "../../shared/messages/telling.ts";
import type { Credit } from "@chronometra/core";
import type { SheetRow } from "../engine/sheet.ts";
import { type Props, CreditDetails } from "./CreditDetails.tsx";

const RULES: Readonly<Record<Credit["rule"], string>> = {
  reported: "the percent that is reported",
  zeroHundred: "nothing until it is finished, then all",
  startFinish: "a share when it starts, the rest when it finishes",
  steps: "steps that are done, by their weight",
  units: "units done of units in all",
  stages: "the stage it has reached",
  levelOfEffort: "the passing of time",
  apportioned: "the progress of another activity",
};

/** A rule with what it cannot do without, to begin with. */
function begun(rule: Credit["rule"], others: readonly SheetRow[]): Credit {
  switch (rule) {
    case "startFinish":
      return { rule, startCredit: 50 };
    case "steps":
      return { rule, steps: [{ name: "First step", weight: 1 }] };
    case "units":
      return { rule, unitsTotal: 100, unitsDone: 0 };
    case "stages":
      return {
        rule,
        stages: [
          { name: "Begun", credit: 20 },
          { name: "Done", credit: 100 },
        ],
        stage: "Begun",
      };
    case "apportioned":
      return { rule, ...(others[0] === undefined ? {} : { to: others[0].id }) };
    default:
      return { rule };
  }
}

/** By which rule progress on the activity earns its budget. */
export function CreditTab(props: Props) {
  const { row, sheet, commit, mayEdit } = props;
  const credit = props.credit ?? { rule: "reported" };
  const set = (next: Credit): Promise<string | null> =>
    commit([{ type: "setCredit", activity: row.id, credit: next.rule === "reported" ? null : next }]);
  if (row.kind === "summary") return <p className="muted">A summary earns what is below it earns.</p>;
  const others = sheet.rows.filter(({ id, kind }) => id !== row.id && kind !== "summary");
  return (
    <div className="flex flex-col gap-2">
      <label className="flex items-center gap-2">
        <span className="muted">Its budget is earned by</span>
        <select
          className="select select-xs w-80"
          disabled={!mayEdit}
          value={credit.rule}
          onChange={(event) => telling(set)(begun(event.target.value as Credit["rule"], others))}
        >
          {(Object.keys(RULES) as Credit["rule"][]).map((rule) => (
            <option key={rule} value={rule}>
              {RULES[rule]}
            </option>
          ))}
        </select>
      </label>
      <CreditDetails {...props} credit={credit} set={set} />
    </div>
  );
}
