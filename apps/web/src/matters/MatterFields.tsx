import { STRATEGIES, type Matter, type MatterSettings, type Strategy } from "@chronometra/contract";
import { CallNames, type OwnField, type OwnValue } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { readOwnValue } from "../project/ownValues.ts";
import { namablesQuery } from "../project/queries.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { Named } from "../shared/fields/Named.tsx";
import { telling } from "../shared/messages/telling.ts";
import { todayHere } from "../shared/words/today.ts";
import { dateWords, money, NOT_A_DATE, percentWords, readDate } from "../shared/words/words.ts";
import { chanceTyped } from "./risks/chanceTyped.ts";
import { severityName } from "./matterColumns.tsx";
import type { WriteOne } from "./queries.ts";

interface Props {
  readonly matter: Matter;
  readonly settings: MatterSettings;
  readonly write: WriteOne;
}

/** A choice among some, or none. */
function Choice(props: {
  label: string;
  value: string | null;
  none: string;
  options: readonly { readonly id: string; readonly name: string }[];
  onChoose: (id: string | null) => void;
}) {
  const { label, value, none, options, onChoose } = props;
  return (
    <select
      className="select select-sm w-40"
      aria-label={label}
      value={value ?? ""}
      onChange={(event) => onChoose(event.target.value === "" ? null : event.target.value)}
    >
      <option value="">{none}</option>
      {options.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}

/** A day, typed or emptied. */
function Day(props: { label: string; value: string | null; onWrite: (day: string | null) => Promise<string | null> }) {
  const { label, value, onWrite } = props;
  return (
    <CommitField
      label={label}
      date={value ?? ""}
      value={value === null ? "" : dateWords(value)}
      onCommit={(text) => {
        if (text.trim() === "") return onWrite(null);
        const day = readDate(text, todayHere().slice(0, 4));
        return day === null ? NOT_A_DATE : onWrite(day);
      }}
    />
  );
}

const AS_PERCENT = "A percent of 0 to 100, as 30.";

const NOBODY: { id: string; name: string }[] = [];

function Owner({ matter: { owner }, write }: Props) {
  const people = useQuery(namablesQuery).data ?? NOBODY;
  const names = useMemo(() => new CallNames(people), [people]);
  return (
    <CommitField
      label="Owner"
      width="w-48"
      value={owner === null ? "" : owner.name}
      offers={people.map(({ id }) => names.of(id))}
      onCommit={(text) => {
        const was = owner?.id ?? null;
        if (text.trim() === "") return write({ field: "owner", was, value: null }, "Nobody owns it any more.");
        const found = names.findWhole(text.trim());
        return "id" in found
          ? write({ field: "owner", was, value: found.id }, `${text.trim()} owns it.`)
          : "Write the name of somebody who can sign in or is in the register of people.";
      }}
    />
  );
}

/** What is done about a risk, and how it stands once that has worked. */
function RiskFields({ matter, settings, write }: Props) {
  const { chance, strategy, residual, proximity, expected, mayWrite } = matter;
  const after = (next: Matter["residual"]) =>
    write({ field: "residual", was: residual, value: next }, "How it stands after the response is written.");
  if (mayWrite === null)
    return (
      <>
        <Named name="Probability">{percentWords(chance, 1)}</Named>
        <Named name="Response">{strategy ?? "–"}</Named>
        <Named name="After it">
          {residual === null
            ? "–"
            : `${percentWords(residual.chance, 1)}, ${severityName(settings, residual.severity)}`}
        </Named>
        <Named name="May strike by">{dateWords(proximity)}</Named>
      </>
    );
  return (
    <>
      <Named name="Probability">
        {mayWrite === "all" ? (
          <CommitField
            label="Probability"
            width="w-20"
            numeric
            value={percentWords(chance, 1)}
            onCommit={(text) => {
              const value = chanceTyped(text);
              return value === null
                ? AS_PERCENT
                : write({ field: "chance", was: chance, value }, "The probability is changed.");
            }}
          />
        ) : (
          percentWords(chance, 1)
        )}
      </Named>
      <Named name="Response">
        <Choice
          label="Kind of response"
          value={strategy}
          none="none yet"
          options={STRATEGIES.map((each) => ({ id: each, name: each }))}
          onChoose={(value) =>
            telling(write)(
              { field: "strategy", was: strategy, value: value as Strategy | null },
              "The response is changed.",
            )
          }
        />
      </Named>
      <Named name="After it">
        <span className="flex flex-wrap items-baseline gap-2">
          <CommitField
            label="Probability after the response"
            width="w-20"
            numeric
            value={residual === null ? "" : percentWords(residual.chance, 1)}
            onCommit={(text) => {
              if (text.trim() === "") return after(null);
              const value = chanceTyped(text);
              return value === null ? AS_PERCENT : after({ chance: value, severity: residual?.severity ?? null });
            }}
          />
          {residual !== null && (
            <Choice
              label="Severity after the response"
              value={residual.severity}
              none="none yet"
              options={settings.severities}
              onChoose={(severity) => telling(after)({ ...residual, severity })}
            />
          )}
        </span>
      </Named>
      <Named name="May strike by">
        <Day
          label="May strike by"
          value={proximity}
          onWrite={(value) => write({ field: "proximity", was: proximity, value }, "The day is changed.")}
        />
      </Named>
      {expected !== null && expected.minor !== 0 && (
        <Named name="Expected cost">
          {money(expected.minor, expected.minorDigits)} {expected.currency}
        </Named>
      )}
    </>
  );
}

const ownText = (field: OwnField, value: OwnValue | undefined): string =>
  value === undefined
    ? ""
    : typeof value === "boolean"
      ? value
        ? "yes"
        : "no"
      : field.type === "date"
        ? dateWords(String(value))
        : String(value);

const NO_ONE = new CallNames([]);

function OwnFields({ matter, settings, write }: Props) {
  return (settings.fields[matter.kind] ?? []).map((field) => {
    const value = matter.values[field.id];
    return (
      <Named key={field.id} name={field.name}>
        {matter.mayWrite === "all" ? (
          <CommitField
            label={field.name}
            width="w-48"
            numeric={field.type === "number"}
            value={ownText(field, value)}
            {...(field.type === "choice" ? { offers: field.choices ?? [] } : {})}
            {...(field.type === "yesNo" ? { offers: ["yes", "no"] } : {})}
            onCommit={(text) => {
              const read = readOwnValue(field, text, { year: todayHere().slice(0, 4), minorDigits: 0, people: NO_ONE });
              return read === undefined
                ? `That does not fit “${field.name}”.`
                : write(
                    { field: "values", of: field.id, was: value ?? null, value: read },
                    `${field.name} is written.`,
                  );
            }}
          />
        ) : (
          ownText(field, value) || "–"
        )}
      </Named>
    );
  });
}

/** What there is to say of a matter in a word, a day or a number each. */
export function MatterFields(props: Props) {
  const { matter, settings, write } = props;
  const { title, severity, owner, due, mayWrite, kind } = matter;
  const plans = mayWrite === "all";
  return (
    <div className="grid gap-x-8 gap-y-1.5 pb-1 md:grid-cols-2">
      {plans && (
        <Named name="What">
          <CommitField
            label="What"
            width="w-72"
            value={title}
            onCommit={(text) =>
              text.trim() === ""
                ? "Write what it is."
                : write({ field: "title", was: title, value: text.trim() }, "It is called otherwise.")
            }
          />
        </Named>
      )}
      <Named name="Severity">
        {plans ? (
          <Choice
            label="Severity"
            value={severity}
            none="none yet"
            options={settings.severities}
            onChoose={(value) =>
              telling(write)({ field: "severity", was: severity, value }, "The severity is changed.")
            }
          />
        ) : (
          severityName(settings, severity)
        )}
      </Named>
      <Named name="Owner">{plans ? <Owner {...props} /> : (owner?.name ?? "–")}</Named>
      <Named name="Due">
        {plans ? (
          <Day
            label="Due"
            value={due}
            onWrite={(value) => write({ field: "due", was: due, value }, "The day is changed.")}
          />
        ) : (
          dateWords(due)
        )}
      </Named>
      {kind === "risk" && <RiskFields {...props} />}
      <OwnFields {...props} />
    </div>
  );
}
