import type { DateOrder, NumberStyle, ImportAnswers, ImportView } from "@chronometra/contract";
import { DateField } from "../shared/fields/DateField.tsx";
import { numberWords } from "../shared/words/words.ts";

const ORDER_WORDS: Record<DateOrder, string> = {
  dmy: "day, month, year",
  mdy: "month, day, year",
  ymd: "year, month, day",
};

/** Asks in which order day and month stand, where the cells leave it open. */
export function DateQuestion({
  question,
  answer,
  onAnswer,
}: {
  question: NonNullable<ImportView["dateQuestion"]>;
  answer: DateOrder | undefined;
  onAnswer: (order: DateOrder) => void;
}) {
  return (
    <fieldset className="my-3 border-l-4 border-accent bg-base-200 px-3 py-2">
      <legend className="sr-only">Order of dates</legend>
      <p>Dates such as “{question.sample}” can be read in more than one way. In which order are they written?</p>
      <div className="mt-1 flex flex-wrap gap-4">
        {question.orders.map((order) => (
          <label key={order} className="flex items-center gap-2">
            <input type="radio" name="order" checked={answer === order} onChange={() => onAnswer(order)} />{" "}
            {ORDER_WORDS[order]}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** Asks which sign parts the decimals, where the cells leave it open. */
export function NumberQuestion({
  question,
  answer,
  onAnswer,
}: {
  question: NonNullable<ImportView["numberQuestion"]>;
  answer: NumberStyle | undefined;
  onAnswer: (style: NumberStyle) => void;
}) {
  return (
    <fieldset className="my-3 border-l-4 border-accent bg-base-200 px-3 py-2">
      <legend className="sr-only">How numbers are written</legend>
      <p>
        Numbers such as “{question.sample}” can be read in two ways, and nothing in their column tells which. What do
        they mean?
      </p>
      <div className="mt-1 flex flex-wrap gap-4">
        {(["point", "comma"] as const).map((style) => (
          <label key={style} className="flex items-center gap-2">
            <input type="radio" name="numbers" checked={answer === style} onChange={() => onAnswer(style)} />{" "}
            {numberWords(Number(question[style]), 9)}, a {style} before decimals
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** What the file does not say of its project. */
export function ProjectFields({
  view,
  onAnswer,
}: {
  view: ImportView;
  onAnswer: (project: NonNullable<ImportAnswers["project"]>) => void;
}) {
  const said = { code: "", name: "", start: "", currency: "", ...view.project, ...view.answers.project };
  const fields = [
    { name: "code", words: "Code", width: "w-32" },
    { name: "name", words: "Name", width: "w-72" },
    { name: "currency", words: "Currency", width: "w-20" },
  ] as const;
  return (
    <div className="my-3 flex flex-wrap gap-3">
      {fields.map(({ name, words, width }) => (
        <label key={name} className="flex flex-col text-sm">
          {words}
          <input
            key={said[name]}
            className={`input input-sm ${width}`}
            defaultValue={said[name]}
            onBlur={(event) =>
              event.target.value !== said[name] && onAnswer({ ...view.answers.project, [name]: event.target.value })
            }
          />
        </label>
      ))}
      <div className="flex flex-col text-sm">
        Starts
        <DateField
          label="Project starts"
          small
          value={said.start ?? ""}
          onDate={(start) => onAnswer({ ...view.answers.project, start })}
        />
      </div>
    </div>
  );
}
