import { telling } from "../../shared/messages/telling.ts";
import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";
import type { Credit } from "@chronometra/core";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { dateWords, NOT_A_DATE, readDate } from "../../shared/words/words.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import { todayHere } from "../../shared/words/today.ts";
import type { Commit } from "./useCommit.ts";

/** What the tab shows the credit of. */
export interface Props {
  readonly row: SheetRow;
  readonly credit: Credit | null;
  readonly sheet: Sheet;
  readonly commit: Commit;
  readonly mayEdit: boolean;
}

const number = (text: string): number => Number(text.replace("%", "").replace(",", ".").trim());
const replaced = <T,>(list: readonly T[], i: number, item: T): T[] => list.map((each, n) => (n === i ? item : each));

interface Ruled extends Props {
  readonly credit: Credit;
  readonly set: (next: Credit) => Promise<string | null>;
}

function Steps({ credit, set, mayEdit }: Ruled) {
  const steps = credit.steps ?? [];
  const total = steps.reduce((sum, { weight }) => sum + weight, 0);
  const put = (i: number, change: Partial<(typeof steps)[number]>): Promise<string | null> =>
    set({ ...credit, steps: replaced(steps, i, { ...steps[i]!, ...change }) });
  const doneOn =
    (i: number) =>
    (text: string): Promise<string | null> | string => {
      const { doneOn: _was, ...rest } = steps[i]!;
      const date = text.trim() === "" ? null : readDate(text, todayHere().slice(0, 4));
      if (date === null && text.trim() !== "") return NOT_A_DATE;
      return set({ ...credit, steps: replaced(steps, i, date === null ? rest : { ...rest, doneOn: date }) });
    };
  return (
    <table className="ledger panel-table" aria-label="Steps">
      <thead>
        <tr>
          <th>Step</th>
          <th className="num">Weight</th>
          <th className="num">Share</th>
          <th>Done on</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {steps.map((step, i) => (
          <tr key={i}>
            <td>
              <CommitField
                label={`Name of step ${i + 1}`}
                value={step.name}
                width="w-56"
                disabled={!mayEdit}
                onCommit={(text) => (text.trim() === "" ? "A step needs a name." : put(i, { name: text.trim() }))}
              />
            </td>
            <td className="num">
              <CommitField
                label={`Weight of ${step.name}`}
                value={String(step.weight)}
                width="w-14"
                numeric
                disabled={!mayEdit}
                onCommit={(text) => (number(text) >= 0 ? put(i, { weight: number(text) }) : "A weight is 0 or more.")}
              />
            </td>
            <td className="num muted">{total === 0 ? "–" : `${Math.round((step.weight / total) * 100)}%`}</td>
            <td>
              <CommitField
                label={`${step.name} done on`}
                date={step.doneOn ?? ""}
                value={step.doneOn === undefined ? "" : dateWords(step.doneOn)}
                width="w-28"
                placeholder="open"
                disabled={!mayEdit}
                onCommit={doneOn(i)}
              />
            </td>
            <td>
              {mayEdit && (
                <RemoveButton
                  what={step.name}
                  onRemove={() => telling(set)({ ...credit, steps: steps.filter((_step, n) => n !== i) })}
                />
              )}
            </td>
          </tr>
        ))}
        {mayEdit && (
          <tr>
            <td colSpan={5}>
              <CommitField
                label="Add a step"
                value=""
                adds
                width="w-56"
                placeholder="a further step"
                onCommit={(text) => set({ ...credit, steps: [...steps, { name: text.trim(), weight: 1 }] })}
              />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

function Stages({ credit, set, mayEdit }: Ruled) {
  const stages = credit.stages ?? [];
  const put = (i: number, change: Partial<(typeof stages)[number]>): Promise<string | null> => {
    const next = { ...stages[i]!, ...change };
    return set({
      ...credit,
      stages: replaced(stages, i, next),
      ...(credit.stage === stages[i]!.name ? { stage: next.name } : {}),
    });
  };
  return (
    <table className="ledger panel-table" aria-label="Stages">
      <thead>
        <tr>
          <th>Reached</th>
          <th>Stage</th>
          <th className="num">Earns</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {stages.map((stage, i) => (
          <tr key={i}>
            <td>
              <input
                type="radio"
                name="stage"
                aria-label={`${stage.name} is reached`}
                disabled={!mayEdit}
                checked={credit.stage === stage.name}
                onChange={() => telling(set)({ ...credit, stage: stage.name })}
              />
            </td>
            <td>
              <CommitField
                label={`Name of stage ${i + 1}`}
                value={stage.name}
                width="w-48"
                disabled={!mayEdit}
                onCommit={(text) => (text.trim() === "" ? "A stage needs a name." : put(i, { name: text.trim() }))}
              />
            </td>
            <td className="num">
              <CommitField
                label={`Credit of ${stage.name}`}
                value={`${stage.credit}%`}
                width="w-16"
                numeric
                disabled={!mayEdit}
                onCommit={(text) =>
                  number(text) >= 0 && number(text) <= 100
                    ? put(i, { credit: number(text) })
                    : "A credit lies between 0 and 100%."
                }
              />
            </td>
            <td>
              {mayEdit && (
                <RemoveButton
                  what={stage.name}
                  onRemove={() => telling(set)({ ...credit, stages: stages.filter((_stage, n) => n !== i) })}
                  stays={credit.stage === stage.name ? "It is the stage that is reached" : undefined}
                />
              )}
            </td>
          </tr>
        ))}
        {mayEdit && (
          <tr>
            <td />
            <td colSpan={3}>
              <CommitField
                label="Add a stage"
                value=""
                adds
                width="w-48"
                placeholder="a further stage"
                onCommit={(text) => set({ ...credit, stages: [...stages, { name: text.trim(), credit: 100 }] })}
              />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

/** What a rule of credit needs besides: its steps, stages, units or the activity it follows. */
export function CreditDetails(props: Ruled) {
  const { credit, set, sheet, row, mayEdit } = props;
  const units = (field: "unitsTotal" | "unitsDone", words: string) => (
    <CommitField
      label={words}
      value={String(credit[field] ?? 0)}
      width="w-20"
      numeric
      disabled={!mayEdit}
      onCommit={(text) => (number(text) >= 0 ? set({ ...credit, [field]: number(text) }) : "Write a number of units.")}
    />
  );
  switch (credit.rule) {
    case "startFinish":
      return (
        <p className="flex items-center gap-2">
          At the start{" "}
          <CommitField
            label="Credit at the start"
            value={`${credit.startCredit ?? 0}%`}
            width="w-16"
            numeric
            disabled={!mayEdit}
            onCommit={(text) =>
              number(text) >= 0 && number(text) <= 100
                ? set({ ...credit, startCredit: number(text) })
                : "A credit lies between 0 and 100%."
            }
          />
        </p>
      );
    case "steps":
      return <Steps {...props} />;
    case "units":
      return (
        <p className="flex items-center gap-2">
          {units("unitsDone", "Units done")} of {units("unitsTotal", "Units in all")} units
        </p>
      );
    case "stages":
      return <Stages {...props} />;
    case "apportioned":
      return (
        <select
          className="select select-xs w-72"
          aria-label="Follows"
          disabled={!mayEdit}
          value={credit.to ?? ""}
          onChange={(event) => telling(set)({ ...credit, to: event.target.value })}
        >
          {sheet.rows
            .filter(({ id, kind }) => id !== row.id && kind !== "summary")
            .map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
        </select>
      );
    default:
      return null;
  }
}
