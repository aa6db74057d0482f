import type { LifeCycles, Stage } from "@chronometra/contract";
import { ArrowDown, ArrowUp } from "lucide-react";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";
import { ConditionLine } from "./ConditionLine.tsx";
import { NEW_CONDITIONS } from "./useLifeCycles.ts";

interface Props {
  readonly stage: Stage;
  readonly severities: LifeCycles["severities"];
  readonly mayEdit: boolean;
  readonly isFirst: boolean;
  readonly isLast: boolean;
  /** Writes it otherwise, or takes it away; gives why it cannot be. */
  readonly onWrite: (stage: Stage | null, words: string) => Promise<string | null>;
  readonly onMove: (by: 1 | -1) => void;
}

const CLEAR = "A name is needed.";

function Names({ stage, mayEdit, onWrite }: Pick<Props, "stage" | "mayEdit" | "onWrite">) {
  if (!mayEdit)
    return (
      <>
        <strong className="font-semibold">{stage.name}</strong> <span className="muted">ends at</span> {stage.gate}
      </>
    );
  const field = (of: "name" | "gate", label: string) => (
    <CommitField
      label={label}
      width="w-52"
      value={stage[of]}
      onCommit={(text) =>
        text.trim() === "" ? CLEAR : onWrite({ ...stage, [of]: text.trim() }, "The name is changed.")
      }
    />
  );
  return (
    <>
      {field("name", `Stage ${stage.name}`)} <span className="muted">ends at</span>{" "}
      {field("gate", `Gate of ${stage.name}`)}
    </>
  );
}

/** A stage, its gate, and what must be true there. */
export function StageLine({ stage, severities, mayEdit, isFirst, isLast, onWrite, onMove }: Props) {
  const { name, conditions } = stage;
  const move = (by: 1 | -1, isEnd: boolean) => (
    <button
      type="button"
      className="btn btn-ghost btn-xs btn-square"
      aria-label={`Move ${name} ${by === -1 ? "up" : "down"}`}
      disabled={isEnd}
      onClick={() => onMove(by)}
    >
      {by === -1 ? <ArrowUp size={12} aria-hidden="true" /> : <ArrowDown size={12} aria-hidden="true" />}
    </button>
  );
  return (
    <li className="border-b rule py-2">
      <div className="flex min-h-8 items-center gap-2">
        <span className="flex flex-1 flex-wrap items-center gap-2">
          <Names stage={stage} mayEdit={mayEdit} onWrite={onWrite} />
        </span>
        {mayEdit && (
          <>
            {move(-1, isFirst)}
            {move(1, isLast)}
            <RemoveButton
              what={`the stage ${name}`}
              stays={isFirst && isLast ? "A life cycle has a stage" : undefined}
              onRemove={() => void onWrite(null, `${name} is removed; what was decided there stays.`)}
            />
          </>
        )}
      </div>
      <ul className="pl-6 text-sm" aria-label={`What must be true at ${stage.gate}`}>
        {conditions.map((condition) => (
          <ConditionLine
            key={condition.id}
            condition={condition}
            severities={severities}
            mayEdit={mayEdit}
            onWrite={(next) =>
              onWrite(
                {
                  ...stage,
                  conditions: conditions.flatMap((each) => (each.id !== condition.id ? [each] : (next ?? []))),
                },
                next === null ? "It is removed." : "It is changed.",
              )
            }
          />
        ))}
        {conditions.length === 0 && <li className="muted">Nothing; whoever decides looks at the work.</li>}
        {mayEdit && (
          <li className="pt-1">
            <select
              className="select select-xs w-64"
              aria-label={`Add what must be true at ${stage.gate}`}
              value=""
              onChange={(event) => {
                const made = NEW_CONDITIONS[Number(event.target.value)]![1](severities);
                void onWrite({ ...stage, conditions: [...conditions, made] }, "It is added.");
              }}
            >
              <option value="">add what must be true …</option>
              {NEW_CONDITIONS.map(([words], i) => (
                <option key={words} value={i}>
                  {words}
                </option>
              ))}
            </select>
          </li>
        )}
      </ul>
    </li>
  );
}
