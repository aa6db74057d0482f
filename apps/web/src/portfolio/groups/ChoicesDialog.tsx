import type { ProjectField, WriteProjectFields } from "@chronometra/contract";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useState } from "react";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../../shared/dialogs/SaveOrCancel.tsx";
import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";
import { ToolButton } from "../../shared/fields/ToolButton.tsx";
import { movedBy } from "../../shared/fields/movedBy.ts";

/** A choice as it stands in the dialog: what it was called, if it was there, and what it is called now. */
interface Choice {
  readonly was: string | null;
  readonly now: string;
}

/** What is wrong with a list of choices; `null` where nothing is. */
function faultOf(choices: readonly Choice[]): string | null {
  if (choices.length === 0) return "It needs at least one choice.";
  const names = choices.map(({ now }) => now.trim());
  if (names.includes("")) return "Each choice needs a name.";
  const twice = names.find((name, i) => names.indexOf(name) < i);
  return twice === undefined ? null : `“${twice}” is there twice.`;
}

interface Props {
  readonly field: ProjectField;
  readonly isPending: boolean;
  readonly onSave: (choices: string[], renamed: NonNullable<WriteProjectFields["renamed"]>) => void;
  readonly onClose: () => void;
}

/** The choices of a field, in the order in which they are offered, sorted and grouped by. */
export function ChoicesDialog({ field, isPending, onSave, onClose }: Props) {
  const [choices, setChoices] = useState<readonly Choice[]>(
    (field.choices ?? []).map((choice) => ({ was: choice, now: choice })),
  );
  const fault = faultOf(choices);
  const save = (): void =>
    onSave(
      choices.map(({ now }) => now.trim()),
      choices.flatMap(({ was, now }) =>
        was === null || was === now.trim() ? [] : [{ field: field.id, from: was, to: now.trim() }],
      ),
    );
  return (
    <Dialog title={`Choices of ${field.name}`} onClose={onClose}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <p className="muted text-sm">
          Projects are sorted and grouped in this order. One that is renamed is renamed in its projects; one that a
          project says cannot be removed.
        </p>
        <ol>
          {choices.map(({ now }, i) => (
            <li key={i} className="flex items-center gap-2 py-0.5">
              <input
                className="input input-sm flex-1"
                aria-label={`Choice ${i + 1}`}
                maxLength={200}
                autoFocus={now === ""}
                value={now}
                onChange={({ target }) =>
                  setChoices(choices.map((each, j) => (j === i ? { ...each, now: target.value } : each)))
                }
              />
              <ToolButton
                icon={ArrowUp}
                name={`Choice ${i + 1} earlier`}
                disabled={i === 0}
                onClick={() => setChoices(movedBy(choices, i, -1))}
              />
              <ToolButton
                icon={ArrowDown}
                name={`Choice ${i + 1} later`}
                disabled={i === choices.length - 1}
                onClick={() => setChoices(movedBy(choices, i, 1))}
              />
              <RemoveButton what={`choice ${i + 1}`} onRemove={() => setChoices(choices.filter((_, j) => j !== i))} />
            </li>
          ))}
        </ol>
        <button
          type="button"
          className="btn btn-sm self-start"
          disabled={choices.length >= 100}
          onClick={() => setChoices([...choices, { was: null, now: "" }])}
        >
          Add a choice
        </button>
        <SaveOrCancel fault={fault} isReady={fault === null && !isPending} onClose={onClose} />
      </form>
    </Dialog>
  );
}
