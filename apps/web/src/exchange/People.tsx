import { A_ROLE, NEW_PERSON, NOBODY, type ImportAnswers, type ImportView } from "@chronometra/contract";
import { useState } from "react";
import { NameChoice } from "../shared/fields/NameChoice.tsx";
import { countWords } from "../shared/words/words.ts";

type People = NonNullable<ImportAnswers["people"]>;

/** Stands in the choice for someone who is known and not among those who are likely meant. */
const SOMEONE_KNOWN = "known";

/** Who one of the names is. */
function Who({
  asked: { name, count, place, meant },
  known,
  onSay,
}: {
  asked: ImportView["peopleQuestion"][number];
  known: ImportView["known"]["people"];
  onSay: (answer: string) => void;
}) {
  const [seeks, setSeeks] = useState(false);
  return (
    <div className="flex items-center gap-2 text-sm">
      <span className="w-56 truncate" title={name}>
        {name}
      </span>
      {seeks ? (
        <NameChoice label={`Who is ${name}?`} things={known} onChoose={(id) => id !== null && onSay(id)} />
      ) : (
        <select
          className="select select-xs w-64"
          aria-label={`Who is ${name}?`}
          value=""
          onChange={(event) => (event.target.value === SOMEONE_KNOWN ? setSeeks(true) : onSay(event.target.value))}
        >
          <option value="">say who …</option>
          {meant.map(({ id, name: each }) => (
            <option key={id} value={id}>
              {each}
            </option>
          ))}
          <option value={NEW_PERSON}>a new person</option>
          <option value={A_ROLE}>a role, named later</option>
          <option value={NOBODY}>nobody: leave it out</option>
          {known.length > meant.length && <option value={SOMEONE_KNOWN}>someone else who is known …</option>}
        </select>
      )}
      <span className="muted">
        {place}
        {count > 1 && ` and ${count - 1} more`}
      </span>
    </div>
  );
}

/** Asks who those are that the file names and nobody knows. */
export function PeopleQuestion({ view, onAnswer }: { view: ImportView; onAnswer: (people: People) => void }) {
  const { peopleQuestion: asked, known } = view;
  const said = view.answers.people ?? {};
  const settled = Object.entries(said).filter(([name]) => !asked.some((each) => each.name === name));
  if (asked.length === 0 && settled.length === 0) return null;
  const called = (answer: string): string =>
    answer === NEW_PERSON
      ? "a new person"
      : answer === A_ROLE
        ? "a role"
        : answer === NOBODY
          ? "nobody"
          : (known.people.find(({ id }) => id === answer)?.name ?? "someone");
  return (
    <fieldset
      className={`my-3 border-l-4 bg-base-200 px-3 py-2 ${asked.length > 0 ? "border-accent" : "border-transparent"}`}
    >
      <legend className="sr-only">People</legend>
      {asked.length > 0 && (
        <>
          <p>
            {countWords(asked.length, "name is", "names are")} nobody’s who is known here. Who is it?{" "}
            <button
              type="button"
              className="btn btn-xs"
              onClick={() => onAnswer({ ...said, ...Object.fromEntries(asked.map(({ name }) => [name, NEW_PERSON])) })}
            >
              {asked.length === 1 ? "A new person" : `All ${asked.length} are new people`}
            </button>
          </p>
          <div className="mt-1 flex max-h-52 flex-col gap-1 overflow-auto">
            {asked.map((each) => (
              <Who
                key={each.name}
                asked={each}
                known={known.people}
                onSay={(answer) => onAnswer({ ...said, [each.name]: answer })}
              />
            ))}
          </div>
        </>
      )}
      {settled.length > 0 && (
        <p className="muted mt-1 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
          {settled.map(([name, answer]) => (
            <span key={name}>
              {name} is {called(answer)}{" "}
              <button
                type="button"
                className="cursor-pointer underline"
                aria-label={`Ask again who ${name} is`}
                onClick={() => {
                  const { [name]: _was, ...rest } = said;
                  onAnswer(rest);
                }}
              >
                ask again
              </button>
            </span>
          ))}
        </p>
      )}
    </fieldset>
  );
}
