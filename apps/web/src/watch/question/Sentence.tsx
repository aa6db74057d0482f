import type { WatchChoices, WatchCondition, WatchField, WatchQuestion } from "@chronometra/contract";
import { PencilLine } from "lucide-react";
import { useState } from "react";
import { choicesOf, CONDITIONS, conditionOf, fieldsOf, movingDateWords } from "./questionWords.ts";
import { type Props, UNIT, Condition, AddCondition } from "./Condition.tsx";

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
