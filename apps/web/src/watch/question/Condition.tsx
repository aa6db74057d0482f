import type { WatchChoices, WatchCondition, WatchField, WatchQuestion } from "@chronometra/contract";
import { Plus, X } from "lucide-react";
import { useId } from "react";
import { readNumber } from "../../shared/words/amounts.ts";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { choicesOf, CONDITIONS, conditionOf, movingDateWords, readMovingDate, type Is } from "./questionWords.ts";
import { todayHere } from "../../shared/words/today.ts";

/** The question, and how it is changed. */
export interface Props {
  readonly question: WatchQuestion;
  readonly choices: WatchChoices | undefined;
  readonly onQuestion: (question: WatchQuestion) => void;
}

/** The unit that stands behind a value. */
export const UNIT: Partial<Record<WatchField["type"], string>> = { days: "d", hours: "h", percent: "%" };
const NONE = "…";

function MovingDate({ label, value, onDate }: { label: string; value: string; onDate: (date: string) => void }) {
  return (
    <CommitField
      label={label}
      width="w-28"
      value={movingDateWords(value)}
      offers={["today", "in 7 days", "in 30 days", "7 days ago", "30 days ago"]}
      onCommit={(text) => {
        const date = readMovingDate(text, todayHere().slice(0, 4));
        if (date === null) return "Write a date, or today, in 30 days, 7 days ago.";
        onDate(date);
        return null;
      }}
    />
  );
}

/** Several of a list, each with its mark; a name is added by typing it. */
function Several({
  label,
  of,
  things,
  loading,
  onOf,
}: {
  label: string;
  of: readonly string[];
  things: readonly { id: string; name: string }[];
  /** Whether the list is still on its way: nothing that is typed can be found in it yet. */
  loading: boolean;
  onOf: (of: string[]) => void;
}) {
  const names = new Map(things.map(({ id, name }) => [id, name]));
  const chosen = of.filter((id) => id !== NONE);
  return (
    <span className="inline-flex flex-wrap items-center gap-1">
      {chosen.map((id) => (
        <button
          key={id}
          type="button"
          className="inline-flex min-h-[24px] items-center gap-1 border-b border-current px-0.5 cursor-pointer"
          title="Remove"
          aria-label={`Remove ${names.get(id) ?? id}`}
          onClick={() => onOf(chosen.filter((other) => other !== id))}
        >
          {names.get(id) ?? id}
          <X size={11} aria-hidden="true" />
        </button>
      ))}
      <CommitField
        label={label}
        width="w-32"
        adds
        value=""
        disabled={loading}
        placeholder={loading ? "Loading …" : chosen.length === 0 ? "choose" : "or"}
        offers={things.filter(({ id }) => !chosen.includes(id)).map(({ name }) => name)}
        onCommit={(text) => {
          const found = things.find(({ name }) => name.toLowerCase() === text.trim().toLowerCase());
          if (found === undefined) return `There is no "${text.trim()}" to select.`;
          if (!chosen.includes(found.id)) onOf([...chosen, found.id]);
          return null;
        }}
      />
    </span>
  );
}

function Asked({
  condition,
  field,
  choices,
  onCondition,
}: {
  condition: WatchCondition;
  field: WatchField;
  choices: WatchChoices | undefined;
  onCondition: (condition: WatchCondition) => void;
}) {
  switch (condition.is) {
    case "has":
    case "hasNot":
      return (
        <CommitField
          label={`${field.head}: what to look for`}
          value={condition.text === NONE ? "" : condition.text}
          placeholder="a word"
          onCommit={(text) =>
            text.trim() === "" ? "Write what to look for." : (onCondition({ ...condition, text: text.trim() }), null)
          }
        />
      );
    case "atLeast":
    case "below":
      return (
        <span className="inline-flex items-center gap-1">
          <CommitField
            label={`${field.head}: how much`}
            width="w-20"
            numeric
            value={String(condition.number)}
            onCommit={(text) => {
              const number = readNumber(text);
              return number === null ? "Write a number, as 15 or 0.5." : (onCondition({ ...condition, number }), null);
            }}
          />
          {UNIT[field.type]}
        </span>
      );
    case "within":
      return (
        <>
          <MovingDate
            label={`${field.head}: from`}
            value={condition.from}
            onDate={(from) => onCondition({ ...condition, from })}
          />{" "}
          and{" "}
          <MovingDate
            label={`${field.head}: to`}
            value={condition.to}
            onDate={(to) => onCondition({ ...condition, to })}
          />
        </>
      );
    case "before":
    case "after":
      return (
        <MovingDate
          label={`${field.head}: day`}
          value={condition.date}
          onDate={(date) => onCondition({ ...condition, date })}
        />
      );
    case "any":
    case "none":
      return (
        <Several
          label={`${field.head}: which`}
          of={condition.of}
          things={choicesOf(condition.field, field, choices)}
          loading={choices === undefined && field.choices === undefined}
          onOf={(of) => onCondition({ ...condition, of: of.length === 0 ? [NONE] : of })}
        />
      );
    default:
      return null;
  }
}

/** One condition as a part of a sentence. */
export function Condition({
  condition,
  fields,
  choices,
  onCondition,
  onOut,
}: {
  condition: WatchCondition;
  fields: Readonly<Record<string, WatchField>>;
  choices: WatchChoices | undefined;
  onCondition: (condition: WatchCondition) => void;
  onOut: () => void;
}) {
  const field = fields[condition.field] ?? { head: condition.field, type: "text" as const };
  return (
    <span className="inline-flex flex-wrap items-center gap-1">
      <strong className="font-semibold">{field.head}</strong>
      <select
        className="select select-sm h-6 w-auto min-w-0 border-0 bg-transparent pl-1"
        aria-label={`${field.head}: condition`}
        value={condition.is}
        onChange={(event) => onCondition(conditionOf(condition.field, event.target.value as Is))}
      >
        {CONDITIONS[field.type].map(([is, words]) => (
          <option key={is} value={is}>
            {words}
          </option>
        ))}
      </select>
      <Asked condition={condition} field={field} choices={choices} onCondition={onCondition} />
      <button
        type="button"
        className="muted inline-flex size-6 items-center justify-center cursor-pointer hover:text-current"
        aria-label={`Remove the condition on ${field.head}`}
        title="Remove the condition"
        onClick={onOut}
      >
        <X size={12} aria-hidden="true" />
      </button>
    </span>
  );
}

/** Adds a condition on a field that the question does not ask for yet. */
export function AddCondition({
  fields,
  words,
  onField,
}: {
  fields: Readonly<Record<string, WatchField>>;
  words: string;
  onField: (name: string) => void;
}) {
  const id = useId();
  return (
    <label htmlFor={id} className="inline-flex items-center gap-0.5">
      <Plus size={12} aria-hidden="true" />
      <select
        id={id}
        className="select select-sm h-6 w-auto border-0 bg-transparent pl-0"
        aria-label={words}
        value=""
        onChange={(event) => onField(event.target.value)}
      >
        <option value="">{words}</option>
        {Object.entries(fields).map(([name, { head }]) => (
          <option key={name} value={name}>
            {head}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Whether every condition says what it looks for; one that does not is left out of the question until it does. */
export const isWhole = (condition: WatchCondition): boolean =>
  !(("of" in condition && condition.of.includes(NONE)) || ("text" in condition && condition.text === NONE));
