import type { HeldCondition } from "@chronometra/contract";
import { Toned } from "../shared/dialogs/Toned.tsx";

const MET = {
  true: ["favourable", "met"],
  false: ["adverse", "not met"],
  null: ["plain", "nothing to hold it against"],
} as const;

interface Props {
  readonly conditions: readonly HeldCondition[];
  readonly name: string;
  /** Confirms what a person confirms, or takes that back; left out where it may not be. */
  readonly onConfirm?: ((condition: HeldCondition, isConfirmed: boolean) => void) | undefined;
}

/** What must be true to pass a gate, and whether it is. */
export const Conditions = ({ conditions, name, onConfirm }: Props) =>
  conditions.length === 0 ? (
    <p className="muted text-sm">Nothing is asked for; whoever decides looks at the work.</p>
  ) : (
    <table className="ledger max-w-5xl" aria-label={name}>
      <thead>
        <tr>
          <th>What must be true</th>
          <th>State</th>
          <th>Why</th>
          {onConfirm !== undefined && <th />}
        </tr>
      </thead>
      <tbody>
        {conditions.map((condition) => {
          const [tone, words] = MET[`${condition.met}`];
          return (
            <tr key={condition.id}>
              <td>{condition.words}</td>
              <td className="whitespace-nowrap">
                <Toned tone={tone}>{words}</Toned>
              </td>
              <td>{condition.says}</td>
              {onConfirm !== undefined && (
                <td>
                  {condition.kind === "confirmed" && (
                    <button
                      type="button"
                      className="btn btn-xs"
                      aria-label={`${condition.met === true ? "Withdraw" : "Confirm"}: ${condition.words}`}
                      onClick={() => onConfirm(condition, condition.met !== true)}
                    >
                      {condition.met === true ? "Withdraw" : "Confirm"}
                    </button>
                  )}
                </td>
              )}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
