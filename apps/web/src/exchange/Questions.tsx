import type { DateOrder, NumberStyle, ImportAnswers, ImportView, RowKeys } from "@chronometra/contract";
import { DateField } from "../shared/fields/DateField.tsx";
import { countWords, dateWords, numberWords } from "../shared/words/words.ts";

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

const KEY_WORDS: Record<RowKeys, string> = {
  ids: "numbers or ids of rows",
  outline: "outline numbers",
  rows: "the place in the list, 1 for the first activity",
  lines: "the row of the spreadsheet",
};

/** Asks what rows are called by where something comes after them, where that can be told in several ways. */
export function RowKeysQuestion({
  question,
  answer,
  onAnswer,
}: {
  question: NonNullable<ImportView["rowKeysQuestion"]>;
  answer: RowKeys | undefined;
  onAnswer: (keys: RowKeys) => void;
}) {
  return (
    <fieldset className="my-3 border-l-4 border-accent bg-base-200 px-3 py-2">
      <legend className="sr-only">What rows are called by</legend>
      <p>“{question.sample}” stands for what an activity comes after. What does it name a row by?</p>
      <div className="mt-1 flex flex-wrap gap-4">
        {question.able.map((keys) => (
          <label key={keys} className="flex items-center gap-2">
            <input
              type="radio"
              name="keys"
              checked={(answer ?? question.taken) === keys}
              onChange={() => onAnswer(keys)}
            />{" "}
            {KEY_WORDS[keys]}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

const SAMPLES_OPEN = 3;

/** Asks which holds where the file's dates and its links disagree. */
export function DatesOrLinks({
  question: { count, samples },
  answer = "links",
  onAnswer,
}: {
  question: NonNullable<ImportView["datesQuestion"]>;
  answer: ImportAnswers["datesOrLinks"];
  onAnswer: (holds: "dates" | "links") => void;
}) {
  return (
    <fieldset className="my-3 border-l-4 border-accent bg-base-200 px-3 py-2">
      <legend className="sr-only">Dates or links</legend>
      <p>
        {countWords(count, "activity starts", "activities start")} on another day in the file than links and durations
        give. Which holds?
      </p>
      <div className="mt-1 flex flex-wrap gap-4">
        <label className="flex items-center gap-2">
          <input type="radio" name="holds" checked={answer === "links"} onChange={() => onAnswer("links")} /> the links:
          the dates follow from them
        </label>
        <label className="flex items-center gap-2">
          <input type="radio" name="holds" checked={answer === "dates"} onChange={() => onAnswer("dates")} /> the dates:
          a date wish for each; where links hold one later, the plan shows by how much
        </label>
      </div>
      <details className="mt-1 text-sm" open={count <= SAMPLES_OPEN}>
        <summary className="cursor-pointer">Which they are</summary>
        <table className="ledger max-w-3xl" aria-label="Where dates and links disagree">
          <thead>
            <tr>
              <th>Where</th>
              <th>Activity</th>
              <th>In the file</th>
              <th>By its links</th>
            </tr>
          </thead>
          <tbody>
            {samples.map(({ place, name, given, byLinks }) => (
              <tr key={`${place} ${name}`}>
                <td>{place}</td>
                <td className="max-w-64 truncate" title={name}>
                  {name}
                </td>
                <td>{dateWords(given)}</td>
                <td>{dateWords(byLinks)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {count > samples.length && <p className="muted">and {count - samples.length} more</p>}
      </details>
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
  const said = {
    code: "",
    name: "",
    start: "",
    currency: "",
    dataDate: "",
    calendar: "",
    ...view.project,
    ...view.answers.project,
  };
  const { calendars } = view.known;
  const own = view.project !== null && !calendars.some(({ id }) => id === said.calendar);
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
      <div className="flex flex-col text-sm">
        Data date
        <DateField
          label="Data date"
          small
          value={said.dataDate ?? ""}
          onDate={(dataDate) => onAnswer({ ...view.answers.project, dataDate })}
        />
      </div>
      {calendars.length > 0 && (
        <label className="flex flex-col text-sm">
          Calendar
          <select
            className="select select-sm w-56"
            value={own ? "" : (said.calendar ?? "")}
            onChange={(event) => {
              const { calendar: _was, ...rest } = view.answers.project ?? {};
              onAnswer(event.target.value === "" ? rest : { ...rest, calendar: event.target.value });
            }}
          >
            <option value="">{own ? "of the file, else Mon to Fri" : "that of the file"}</option>
            {calendars.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
    </div>
  );
}
