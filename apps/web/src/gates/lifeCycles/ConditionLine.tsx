import type { LifeCycle, LifeCycles } from "@chronometra/contract";
import { conditionWords } from "@chronometra/core";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";
import { numberTyped } from "../../shared/words/numberTyped.ts";
import { numberWords } from "../../shared/words/words.ts";

type Condition = LifeCycle["stages"][number]["conditions"][number];

interface Props {
  readonly condition: Condition;
  readonly severities: LifeCycles["severities"];
  readonly mayEdit: boolean;
  /** Writes it otherwise, or takes it away; gives why it cannot be. */
  readonly onWrite: (condition: Condition | null) => Promise<string | null>;
}

/** A condition with what of it may be said otherwise. */
function Edited({ condition, severities, onWrite }: Omit<Props, "mayEdit">) {
  const limit = (value: number, label: string, set: (value: number) => Condition) => (
    <CommitField
      label={label}
      width="w-14"
      numeric
      value={numberWords(value, 1)}
      onCommit={(text) => {
        const typed = numberTyped(text);
        return typed === null ? "A number of 0 or more." : onWrite(set(typed));
      }}
    />
  );
  switch (condition.kind) {
    case "cost":
      return (
        <>
          The estimate at completion is at most{" "}
          {limit(condition.percent, "Percent over the budget", (percent) => ({ ...condition, percent }))} % over the
          budget
        </>
      );
    case "drift":
      return <>The finish is at most {limit(condition.days, "Days late", (days) => ({ ...condition, days }))} d late</>;
    case "plan":
      return (
        <select
          className="select select-xs"
          aria-label="How fit the plan must be"
          value={condition.fitness}
          onChange={(event) => void onWrite({ ...condition, fitness: event.target.value as "fit" | "mend" })}
        >
          {(["fit", "mend"] as const).map((fitness) => (
            <option key={fitness} value={fitness}>
              {conditionWords({ ...condition, fitness })}
            </option>
          ))}
        </select>
      );
    case "issues":
      return (
        <>
          No open issue is{" "}
          <select
            className="select select-xs"
            aria-label="How severe at most"
            value={condition.severity}
            onChange={(event) => void onWrite({ ...condition, severity: event.target.value })}
          >
            {severities.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>{" "}
          or worse
        </>
      );
    case "confirmed":
      return (
        <CommitField
          label="What a person confirms"
          width="w-96"
          value={condition.text}
          onCommit={(text) =>
            text.trim() === "" ? "Say what is to be confirmed." : onWrite({ ...condition, text: text.trim() })
          }
        />
      );
    default:
      return <>{conditionWords(condition)}</>;
  }
}

/** One of the things that must be true at a gate. */
export function ConditionLine({ condition, severities, mayEdit, onWrite }: Props) {
  const words = conditionWords(condition, (id) => severities.find((step) => step.id === id)?.name ?? "…");
  return (
    <li className="flex min-h-7 items-center gap-2">
      <span className="min-w-0 flex-1">
        {mayEdit ? <Edited condition={condition} severities={severities} onWrite={onWrite} /> : words}
        {condition.kind === "confirmed" && <span className="muted"> (a person confirms)</span>}
      </span>
      {mayEdit && <RemoveButton what={words} onRemove={() => void onWrite(null)} />}
    </li>
  );
}
