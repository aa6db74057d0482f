import type { WatchChoices, WatchCondition, WatchField, WatchQuestion } from "@chronometra/contract";
import { PencilLine, Plus, X } from "lucide-react";
import { useId, useState } from "react";
import { readNumber } from "../shared/words/amounts.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import {
  choicesOf,
  CONDITIONS,
  conditionOf,
  fieldsOf,
  movingDateWords,
  readMovingDate,
  type Is,
} from "./questionWords.ts";
import { todayHere } from "../shared/words/today.ts";

interface Props {
  readonly question: WatchQuestion;
  readonly choices: WatchChoices | undefined;
  readonly onQuestion: (question: WatchQuestion) => void;
}

const UNIT: Partial<Record<WatchField["type"], string>> = { days: "d", hours: "h", percent: "%" };
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
function Condition({
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

function AddCondition({
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

/** A condition as it is read. */
function conditionWords(
  condition: WatchCondition,
  fields: Readonly<Record<string, WatchField>>,
  choices: WatchChoices | undefined,
): string {
  const field = fields[condition.field] ?? { head: condition.field, type: "text" as const };
  const is = CONDITIONS[field.type].find(([each]) => each === condition.is)?.[1] ?? condition.is;
  const unit = UNIT[field.type] === undefined ? "" : ` ${UNIT[field.type]}`;
  switch (condition.is) {
    case "has":
    case "hasNot":
      return `${field.head} ${is} “${condition.text}”`;
    case "atLeast":
    case "below":
      return `${field.head} ${is} ${condition.number}${unit}`;
    case "within":
      return `${field.head} ${is} ${movingDateWords(condition.from)} and ${movingDateWords(condition.to)}`;
    case "before":
    case "after":
      return `${field.head} ${is} ${movingDateWords(condition.date)}`;
    case "any":
    case "none": {
      const names = new Map(choicesOf(condition.field, field, choices).map(({ id, name }) => [id, name]));
      return `${field.head} ${is} ${condition.of.map((id) => names.get(id) ?? id).join(" or ")}`;
    }
    default:
      return `${field.head} ${is}`;
  }
}

/** What must hold, as a sentence: read, and taken apart where it is to be changed. */
export function Sentence({ question, choices, onQuestion, fresh }: Props & { readonly fresh: boolean }) {
  const [open, setOpen] = useState(fresh);
  const fields = fieldsOf(question.about, choices);
  const toggle = (
    <button
      type="button"
      className="btn btn-ghost btn-xs ml-auto shrink-0"
      aria-expanded={open}
      onClick={() => setOpen(!open)}
    >
      {open ? (
        "Done"
      ) : (
        <>
          <PencilLine size={12} aria-hidden="true" /> Change
        </>
      )}
    </button>
  );
  if (!open) {
    return (
      <div className="flex items-start gap-2 border-y rule py-1 text-sm">
        <p>
          {question.where.length === 0
            ? "All of them."
            : question.where.map((group, g) => (
                <span key={g}>
                  {g > 0 && <em className="muted"> or </em>}
                  {group.map((condition, c) => (
                    <span key={c}>
                      {c > 0 && <em className="muted"> and </em>}
                      {conditionWords(condition, fields, choices)}
                    </span>
                  ))}
                </span>
              ))}
        </p>
        {toggle}
      </div>
    );
  }
  return (
    <div className="flex items-start border-y rule py-1.5">
      <Apart question={question} choices={choices} onQuestion={onQuestion} />
      {toggle}
    </div>
  );
}

/** The sentence taken apart: each part is changed where it stands. */
function Apart({ question, choices, onQuestion }: Props) {
  const fields = fieldsOf(question.about, choices);
  const fresh = (name: string): WatchCondition => conditionOf(name, CONDITIONS[fields[name]!.type][0]![0]);
  const put = (where: WatchQuestion["where"]): void =>
    onQuestion({ ...question, where: where.filter((group) => group.length > 0) });
  return (
    <div className="flex flex-1 flex-col gap-1 text-sm" role="group" aria-label="What must hold">
      {question.where.map((group, g) => (
        <p key={g} className="flex flex-wrap items-center gap-x-2 gap-y-1">
          <span className="muted w-10 shrink-0">{g === 0 ? "where" : "or"}</span>
          {group.map((condition, c) => (
            <span key={c} className="inline-flex items-center gap-2">
              {c > 0 && <span className="muted">and</span>}
              <Condition
                condition={condition}
                fields={fields}
                choices={choices}
                onCondition={(next) =>
                  put(question.where.map((each, i) => (i === g ? each.map((old, j) => (j === c ? next : old)) : each)))
                }
                onOut={() => put(question.where.map((each, i) => (i === g ? each.filter((_, j) => j !== c) : each)))}
              />
            </span>
          ))}
          <AddCondition
            fields={fields}
            words="and"
            onField={(name) => put(question.where.map((each, i) => (i === g ? [...each, fresh(name)] : each)))}
          />
        </p>
      ))}
      <p className="flex items-center gap-2">
        <span className="w-10 shrink-0 muted">{question.where.length === 0 && "all"}</span>
        <AddCondition
          fields={fields}
          words={question.where.length === 0 ? "where" : "or where"}
          onField={(name) => put([...question.where, [fresh(name)]])}
        />
      </p>
    </div>
  );
}
