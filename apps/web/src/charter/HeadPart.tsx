import type { CharterView } from "@chronometra/contract";
import { currencyDigits, parseDuration, type ProjectHead } from "@chronometra/core";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { numberTyped } from "../shared/words/numberTyped.ts";
import { dateWords, NOT_A_DATE, numberWords, readDate } from "../shared/words/words.ts";
import type { Charterer } from "./useCharter.ts";
import { Named } from "../shared/fields/Named.tsx";

interface Props {
  readonly view: CharterView;
  readonly charterer: Charterer;
}

const LOGIC_WORDS = {
  retained: "the rest waits for what it comes after",
  override: "the rest goes on as it was begun",
} as const;

/** A currency with the digits that it has. */
const currencyTyped = (currency: string): { currency: string; minorDigits: number } => ({
  currency,
  minorDigits: currencyDigits(currency) ?? 2,
});

/** How each field of the project's head is called, shown and read. */
interface HeadField {
  readonly name: string;
  readonly shown: (head: ProjectHead) => string;
  readonly read: (text: string, head: ProjectHead) => Partial<Record<keyof ProjectHead, unknown>> | string;
  readonly width: string;
  readonly date?: true;
}

const FIELDS: readonly HeadField[] = [
  {
    name: "Code",
    width: "w-40",
    shown: ({ code }) => code,
    read: (text) => (text.trim() === "" ? "A project needs a code." : { code: text.trim() }),
  },
  {
    name: "Name",
    width: "w-96",
    shown: ({ name }) => name,
    read: (text) => (text.trim() === "" ? "A project needs a name." : { name: text.trim() }),
  },
  {
    name: "Start",
    width: "w-32",
    date: true,
    shown: ({ start }) => dateWords(start),
    read: (text, { start }) => {
      const date = readDate(text, start.slice(0, 4));
      return date === null ? NOT_A_DATE : { start: date };
    },
  },
];

const CRITICAL = "Critical up to";
const TIGHT = "Tight up to";

/** The project's head as whoever may not change it reads it. */
function HeadRead({ head, calendars, booked }: CharterView) {
  const lines: readonly (readonly [name: string, words: string])[] = [
    ...FIELDS.map(({ name, shown }) => [name, shown(head)] as const),
    ["Currency", `${head.currency}${booked ? ", in which money is booked or approved" : ""}`],
    ["Calendar", calendars.find(({ id }) => id === head.calendar)?.name ?? head.calendar],
    ["Begun out of order", LOGIC_WORDS[head.logic ?? "retained"]],
    [CRITICAL, `${numberWords((head.criticalFloatMinutes ?? 0) / 60, 2)} h of total float`],
    [TIGHT, `${numberWords(head.tightDays ?? 5, 2)} days before a deadline`],
  ];
  return (
    <section>
      <h2 className="pb-1 text-base">The project</h2>
      {lines.map(([name, words]) => (
        <Named key={name} name={name}>
          {words}
        </Named>
      ))}
    </section>
  );
}

/** The project's head: what it is called, when it begins, in which money and by which rules it is computed. */
export function HeadPart({ view, charterer }: Props) {
  const { head, mayEdit, booked } = view;
  if (!mayEdit) return <HeadRead {...view} />;
  const text = ({ name, shown, read, width, date }: HeadField) => (
    <Named key={name} name={name}>
      <CommitField
        label={name}
        width={width}
        value={shown(head)}
        {...(date === true ? { date: head.start } : {})}
        onCommit={(typed) => {
          const set = read(typed, head);
          return typeof set === "string" ? set : charterer.setProject(set as never, `${name} is changed.`);
        }}
      />
    </Named>
  );
  return (
    <section>
      <h2 className="pb-1 text-base">The project</h2>
      {FIELDS.map(text)}
      <Named name="Currency">
        <CommitField
          label="Currency"
          width="w-20"
          value={head.currency}
          disabled={booked}
          onCommit={(typed) =>
            /^[A-Za-z]{3}$/.test(typed.trim())
              ? charterer.setProject(currencyTyped(typed.trim().toUpperCase()), "The currency is changed.")
              : "Three letters, as EUR."
          }
        />
        {booked && <span className="muted pl-2 text-sm">stays: money is booked or approved in it</span>}
      </Named>
      <Rules view={view} charterer={charterer} />
    </section>
  );
}

/** By which rules the project is computed. */
function Rules({ view: { head, calendars }, charterer }: Props) {
  return (
    <>
      <Named name="Calendar">
        <select
          className="select select-xs w-64"
          aria-label="Calendar"
          value={head.calendar}
          onChange={(event) =>
            void charterer.setProject({ calendar: event.target.value }, "The project works by another calendar.")
          }
        >
          {calendars.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </Named>
      <Named name="Begun out of order">
        <select
          className="select select-xs w-80"
          aria-label="Begun out of order"
          value={head.logic ?? "retained"}
          onChange={(event) =>
            void charterer.setProject(
              { logic: event.target.value as "retained" | "override" },
              "What is begun out of order is laid out otherwise.",
            )
          }
        >
          {Object.entries(LOGIC_WORDS).map(([logic, words]) => (
            <option key={logic} value={logic}>
              {words}
            </option>
          ))}
        </select>
      </Named>
      <Named name={CRITICAL}>
        <CommitField
          label={CRITICAL}
          width="w-20"
          numeric
          value={`${numberWords((head.criticalFloatMinutes ?? 0) / 60, 2)} h`}
          onCommit={(typed) => {
            const minutes = parseDuration(typed, 480, "hours");
            return minutes === null
              ? "A duration, as 4h or 1d."
              : charterer.setProject({ criticalFloatMinutes: minutes }, "What counts as critical is changed.");
          }}
        />
        <span className="muted pl-2 text-sm">of total float</span>
      </Named>
      <Named name={TIGHT}>
        <CommitField
          label={TIGHT}
          width="w-20"
          numeric
          value={numberWords(head.tightDays ?? 5, 2)}
          onCommit={(typed) => {
            const days = numberTyped(typed);
            return days === null
              ? "A number of days."
              : charterer.setProject({ tightDays: days }, "What counts as tight is changed.");
          }}
        />
        <span className="muted pl-2 text-sm">days before a deadline</span>
      </Named>
    </>
  );
}
