import type { Endings as Answers, ReportsEffect } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { dateWords } from "../shared/words/words.ts";

interface Props {
  readonly effects: ReportsEffect;
  /** What was answered, known before what it does is. */
  readonly answers: Answers;
  readonly onAnswer: (answers: Answers) => void;
}

/**
 * Whether a 100% ends the activity or only its sender's own work, where others still have hours; and starts taken from
 * the plan.
 */
export function Endings({ effects, answers, onAnswer }: Props) {
  const asked = effects
    .flatMap((of) => of.asked)
    .map((each) => ({ ...each, answer: answers[each.report] ?? each.answer }));
  const open = asked.filter(({ answer }) => answer === null);
  const all = (answer: "all" | "own"): void => onAnswer(Object.fromEntries(open.map(({ report }) => [report, answer])));
  if (asked.length === 0) return null;
  return (
    <section aria-label="What 100% ends" className="mb-2 border-l-4 border-warning pl-2 text-sm">
      {asked.map(({ report, name, person, others, answer }) => (
        <fieldset key={report} className="border-b rule py-1">
          <legend className="sr-only">
            What the 100% of {person} on {name} ends
          </legend>
          <p>
            {person} says 100% of “{name}”. Others still have hours:{" "}
            {others.map((one) => `${one.person} ${formatHours(one.leftMinutes)}`).join(", ")}.
          </p>
          <div className="flex flex-wrap gap-x-4">
            <label className="flex items-center gap-1.5">
              <input
                type="radio"
                name={`ends-${report}`}
                checked={answer === "own"}
                onChange={() => onAnswer({ [report]: "own" })}
              />
              only their own work is finished
            </label>
            <label className="flex items-center gap-1.5">
              <input
                type="radio"
                name={`ends-${report}`}
                checked={answer === "all"}
                onChange={() => onAnswer({ [report]: "all" })}
              />
              all of it is finished
            </label>
          </div>
        </fieldset>
      ))}
      {open.length > 1 && (
        <p className="flex flex-wrap items-center gap-2 py-1">
          For the {open.length} not answered:
          <button type="button" className="btn btn-xs" onClick={() => all("own")}>
            only their own work
          </button>
          <button type="button" className="btn btn-xs" onClick={() => all("all")}>
            all of it
          </button>
        </p>
      )}
    </section>
  );
}

/** Starts that are taken from the plan, since those who were to begin then have not reported. */
export function AssumedStarts({ of }: { of: ReportsEffect[number] }) {
  if (of.assumed.length === 0) return null;
  return (
    <ul className="undecided mt-1 text-sm">
      {of.assumed.map(({ activity, name, start, people }) => (
        <li key={activity}>
          “{name}” is taken to have begun on {dateWords(start)} as planned: {people.join(", ")}{" "}
          {people.length > 1 ? "have" : "has"} not reported yet.
        </li>
      ))}
    </ul>
  );
}
