import type { RepeatAsked } from "@chronometra/contract";
import { Plus } from "lucide-react";
import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";

/** What a template is called, what it is for, and what it asks. */
export interface TemplateWords {
  readonly name: string;
  readonly description: string;
  readonly repeats: readonly RepeatAsked[];
}

interface Props {
  readonly words: TemplateWords;
  /** Branches that may stand several times. */
  readonly branches: readonly { readonly id: string; readonly name: string }[];
  readonly onChange: (words: TemplateWords) => void;
}

/** Questions about how often a branch stands. */
function Asks({ words, branches, onChange }: Props) {
  const set = (at: number, part: Partial<RepeatAsked>): void =>
    onChange({ ...words, repeats: words.repeats.map((each, i) => (i === at ? { ...each, ...part } : each)) });
  const free = branches.filter(({ id }) => !words.repeats.some(({ activity }) => activity === id));
  return (
    <fieldset className="text-sm">
      <legend>Branches that may stand several times</legend>
      <ul className="flex flex-col gap-1">
        {words.repeats.map(({ activity, ask, inTurn }, i) => {
          const name = branches.find(({ id }) => id === activity)?.name ?? activity;
          return (
            <li key={activity} className="flex flex-wrap items-center gap-2">
              <span className="w-40 truncate" title={name}>
                {name}
              </span>
              <input
                className="input input-sm w-52"
                aria-label={`What is asked about ${name}`}
                maxLength={200}
                value={ask}
                onChange={(event) => set(i, { ask: event.target.value })}
              />
              <select
                className="select select-sm w-44"
                aria-label={`How ${name} stands several times`}
                value={inTurn ? "turn" : "side"}
                onChange={(event) => set(i, { inTurn: event.target.value === "turn" })}
              >
                <option value="turn">one after the other</option>
                <option value="side">side by side</option>
              </select>
              <RemoveButton
                what={`the question about ${name}`}
                onRemove={() => onChange({ ...words, repeats: words.repeats.filter((_, j) => j !== i) })}
              />
            </li>
          );
        })}
      </ul>
      {free.length > 0 && (
        <label className="flex items-center gap-1 pt-1">
          <Plus size={12} aria-hidden="true" />
          <select
            className="select select-xs w-56"
            aria-label="A branch that may stand several times"
            value=""
            onChange={({ target }) => {
              const branch = free.find(({ id }) => id === target.value);
              if (branch === undefined) return;
              const asked = { activity: branch.id, ask: `How many times “${branch.name}”?`, inTurn: true };
              onChange({ ...words, repeats: [...words.repeats, asked] });
            }}
          >
            <option value="">a branch …</option>
            {free.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
    </fieldset>
  );
}

/** The words of a template, to be typed. */
export const TemplateForm = (props: Props) => {
  const { words, onChange } = props;
  return (
    <>
      <label className="flex flex-col text-sm">
        Name
        <input
          className="input input-sm"
          maxLength={200}
          value={words.name}
          onChange={(event) => onChange({ ...words, name: event.target.value })}
        />
      </label>
      <label className="flex flex-col text-sm">
        What it is for
        <textarea
          className="textarea textarea-sm w-full"
          rows={2}
          maxLength={4000}
          value={words.description}
          onChange={(event) => onChange({ ...words, description: event.target.value })}
        />
      </label>
      <Asks {...props} />
    </>
  );
};
