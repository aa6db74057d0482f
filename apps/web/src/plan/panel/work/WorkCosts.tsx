import { telling } from "../../../shared/messages/telling.ts";
import { RemoveButton } from "../../../shared/fields/RemoveButton.tsx";
import type { WorkProps } from "./workProps.ts";
import { CommitField } from "../../../shared/fields/CommitField.tsx";
import { AMOUNT_FAULT, amountText, readAmount } from "../../../shared/words/amounts.ts";

const TIMINGS = { even: "evenly", start: "at the start", finish: "at the finish" } as const;
/** What a line of cost looks like when it is typed. */
export const COST_HINT = "Crane hire 1200";

/** A cost as it is typed: what for and how much, `Crane hire 1200`. `null` where it is none. */
export function readCost(text: string, minorDigits: number): { category: string; plannedMinor: number } | null {
  const match = /^(.*?)\s+(-?[\d.,\s']+)$/.exec(text.trim());
  const minor = match === null ? null : readAmount(match[2]!, minorDigits);
  return match === null || minor === null ? null : { category: match[1]!, plannedMinor: minor };
}

type LineProps = Pick<WorkProps, "work" | "sheet" | "commit" | "mayEdit"> & {
  readonly cost: WorkProps["work"]["costs"][number];
};

/** One line of cost, each part changed where it stands. */
function CostLine({ cost: { key, row: own }, work, sheet, commit, mayEdit }: LineProps) {
  const amount = (text: string): Promise<string | null> | string => {
    const minor = readAmount(text, work.minorDigits);
    return minor === null
      ? AMOUNT_FAULT
      : commit([{ type: "editRow", table: "costs", key, set: { plannedMinor: minor } }]);
  };
  return (
    <tr>
      <td>
        <CommitField
          label={`Category of ${own.category}`}
          value={own.category}
          width="w-40"
          offers={sheet.categories}
          disabled={!mayEdit}
          onCommit={(text) =>
            text.trim() === ""
              ? "A cost needs a category."
              : commit([{ type: "editRow", table: "costs", key, set: { category: text.trim() } }])
          }
        />
      </td>
      <td className="num">
        <CommitField
          label={`Amount of ${own.category}`}
          value={amountText(own.plannedMinor, work.minorDigits)}
          width="w-24"
          numeric
          disabled={!mayEdit}
          onCommit={amount}
        />
      </td>
      <td>
        <select
          className="select select-xs w-28"
          aria-label={`When ${own.category} falls due`}
          disabled={!mayEdit}
          value={own.timing ?? "even"}
          onChange={(event) =>
            telling(commit)([
              {
                type: "editRow",
                table: "costs",
                key,
                set: {
                  timing: event.target.value === "even" ? null : (event.target.value as "start" | "finish"),
                },
              },
            ])
          }
        >
          {Object.entries(TIMINGS).map(([timing, words]) => (
            <option key={timing} value={timing}>
              {words}
            </option>
          ))}
        </select>
      </td>
      <td>
        {mayEdit && (
          <RemoveButton
            what={own.category}
            onRemove={() => telling(commit)([{ type: "removeRow", table: "costs", key }])}
          />
        )}
      </td>
    </tr>
  );
}

/** What an activity costs besides its people, line by line. */
export function WorkCosts({ row, work, sheet, commit, mayEdit }: WorkProps) {
  const add = (text: string): Promise<string | null> | string => {
    const read = readCost(text, work.minorDigits);
    if (read === null) return `Write what for and how much: ${COST_HINT}.`;
    const id = `k-${crypto.randomUUID().slice(0, 13)}`;
    return commit([{ type: "addRow", table: "costs", key: id, row: { id, activity: row.id, ...read } }]);
  };
  return (
    <table className="ledger panel-table" aria-label="Other costs">
      <thead>
        <tr>
          <th>Other costs</th>
          <th className="num">{work.currency}</th>
          <th>Falls due</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {work.costs.map((cost) => (
          <CostLine key={cost.key} cost={cost} work={work} sheet={sheet} commit={commit} mayEdit={mayEdit} />
        ))}
        {mayEdit && (
          <tr>
            <td colSpan={4}>
              <CommitField
                label="Add a cost"
                value=""
                adds
                width="w-56"
                placeholder={COST_HINT}
                offers={sheet.categories.map((category) => `${category} `)}
                onCommit={add}
              />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
