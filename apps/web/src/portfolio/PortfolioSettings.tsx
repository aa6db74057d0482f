import type { Portfolio } from "@chronometra/contract";
import {
  CHECKS,
  OWN_FIELD_TYPES,
  SILENT_DAYS,
  type OwnField,
  type QualityLimits,
  type Thresholds,
} from "@chronometra/core";
import { useState } from "react";
import { CommitField } from "../shared/CommitField.tsx";
import { Dialog } from "../shared/Dialog.tsx";
import { readNumber } from "../shared/amounts.ts";
import { numberWords } from "../shared/words.ts";
import { inTreeOrder } from "./programmeTree.ts";
import { usePortfolioWrite } from "./usePortfolioWrite.ts";

const LIMITS: readonly (readonly [Exclude<keyof Thresholds, "deadlines">, string, string])[] = [
  ["spiBelow", "SPI below", ""],
  ["cpiBelow", "CPI below", ""],
  ["spitBelow", "SPI(t) of earned schedule below", ""],
  ["driftOver", "Finish late by more than", "d"],
  ["movedOver", "Finish moved since the last period by more than", "d"],
  ["overrunOver", "Estimate at completion over the budget by more than", "%"],
];

/** The limits beyond which a manager is asked to explain; an empty one asks nothing. */
export function ThresholdsDialog({ thresholds, onClose }: { thresholds: Thresholds; onClose: () => void }) {
  const write = usePortfolioWrite("PUT /api/portfolio/thresholds");
  return (
    <Dialog title="When a project is to be explained" onClose={onClose}>
      <p className="muted pb-2 text-sm">
        A project that breaks one of these is marked on this page, and its manager is asked for an explanation, which
        stays with the period. An empty limit asks nothing.
      </p>
      <ul>
        {LIMITS.map(([rule, words, unit]) => (
          <li key={rule} className="flex items-center gap-2 border-b rule py-1 text-sm">
            <span className="flex-1">{words}</span>
            <CommitField
              label={words}
              width="w-20"
              numeric
              placeholder="none"
              value={thresholds[rule] === null ? "" : String(thresholds[rule])}
              onCommit={async (text) => {
                const value = text.trim() === "" ? null : readNumber(text);
                if (value === null && text.trim() !== "") return "Write a number, as 0.9 or 10.";
                try {
                  await write.mutateAsync({ body: { ...thresholds, [rule]: value } });
                  return null;
                } catch (error) {
                  return error instanceof Error ? error.message : String(error);
                }
              }}
            />
            <span className="w-4">{unit}</span>
          </li>
        ))}
        <li className="py-1 text-sm">
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={thresholds.deadlines}
              onChange={(event) => write.mutate({ body: { ...thresholds, deadlines: event.target.checked } })}
            />
            A deadline is broken, or will be
          </label>
        </li>
      </ul>
    </Dialog>
  );
}

/** Limits of the fourteen checks; an empty one is the published one. */
export function QualityLimitsDialog({ limits, onClose }: { limits: QualityLimits; onClose: () => void }) {
  const write = usePortfolioWrite("PUT /api/portfolio/quality-limits");
  const store = async (body: QualityLimits): Promise<string | null> => {
    try {
      await write.mutateAsync({ body });
      return null;
    } catch (error) {
      return error instanceof Error ? error.message : String(error);
    }
  };
  return (
    <Dialog title="When a plan can be trusted" onClose={onClose}>
      <p className="muted pb-2 text-sm">
        The limits of the fourteen checks for this portfolio. An empty one is the published one, which is shown beside
        it.
      </p>
      <ul>
        {CHECKS.filter(({ rule }) => rule !== "holds").map((check) => {
          const { number, name, rule, limit } = check;
          const factor = number >= 13 ? 1 : 100;
          const own = limits[number];
          return (
            <li key={number} className="flex items-center gap-2 border-b rule py-0.5 text-sm">
              <span className="muted w-5 text-right">{number}</span>
              <span className="flex-1">{name}</span>
              <span className="muted">{rule === "atMost" ? "at most" : "at least"}</span>
              <CommitField
                label={`Limit of ${name}`}
                width="w-16"
                numeric
                placeholder={String(Number((limit * factor).toFixed(2)))}
                value={own === undefined ? "" : String(Number((own * factor).toFixed(4)))}
                onCommit={async (text) => {
                  const value = text.trim() === "" ? null : readNumber(text);
                  if (value === null && text.trim() !== "") return "Write a number, as 5 or 0.95.";
                  const { [number]: _former, ...others } = limits;
                  return store(value === null ? others : { ...others, [number]: value / factor });
                }}
              />
              <span className="w-4">{factor === 100 ? "%" : ""}</span>
              <span className="muted w-28 text-right">
                published {numberWords(limit * factor, 2)}
                {factor === 100 ? "%" : ""}
              </span>
            </li>
          );
        })}
        <li className="flex items-center gap-2 border-b rule py-0.5 text-sm">
          <span className="flex-1 pl-7">Work that has begun, without news for more than</span>
          <CommitField
            label="Days without news"
            width="w-16"
            numeric
            placeholder={String(SILENT_DAYS)}
            value={limits["silentDays"] === undefined ? "" : String(limits["silentDays"])}
            onCommit={async (text) => {
              const value = text.trim() === "" ? null : Number(text);
              if (value !== null && !(Number.isInteger(value) && value > 0))
                return "Write a whole number of days, as 14.";
              const { silentDays: _former, ...others } = limits;
              return store(value === null ? others : { ...others, silentDays: value });
            }}
          />
          <span className="w-4">d</span>
          <span className="muted w-28 text-right">common {SILENT_DAYS}</span>
        </li>
      </ul>
    </Dialog>
  );
}

const TYPE_WORDS: Record<OwnField["type"], string> = {
  text: "text",
  number: "number",
  date: "date",
  choice: "one of a list",
  yesNo: "yes or no",
};

/** Fields of one's own that every project has. */
export function FieldsDialog({ fields, onClose }: { fields: readonly OwnField[]; onClose: () => void }) {
  const write = usePortfolioWrite("PUT /api/portfolio/fields");
  const [name, setName] = useState("");
  const [type, setType] = useState<OwnField["type"]>("text");
  const [choices, setChoices] = useState("");
  const add = (): void => {
    const list = choices
      .split(",")
      .map((each) => each.trim())
      .filter((each) => each !== "");
    write.mutate(
      {
        body: {
          fields: [
            ...fields,
            {
              id: crypto.randomUUID().slice(0, 13),
              name: name.trim(),
              type,
              ...(type === "choice" ? { choices: [...new Set(list)] } : {}),
            },
          ],
        },
      },
      {
        onSuccess: () => {
          setName("");
          setChoices("");
        },
      },
    );
  };
  return (
    <Dialog title="Own fields of projects" onClose={onClose}>
      {fields.length === 0 ? (
        <p className="muted pb-2 text-sm">
          None yet: such as priority, sponsor or line of business. They become columns, and projects can be grouped by
          them.
        </p>
      ) : (
        <ul className="pb-2 text-sm">
          {fields.map((field) => (
            <li key={field.id} className="flex items-center gap-2 border-b rule py-1">
              <CommitField
                label={`Name of ${field.name}`}
                width="w-40"
                value={field.name}
                onCommit={(text) =>
                  text.trim() === ""
                    ? "A field needs a name."
                    : (write.mutate({
                        body: {
                          fields: fields.map((each) => (each.id === field.id ? { ...each, name: text.trim() } : each)),
                        },
                      }),
                      null)
                }
              />
              <span className="muted flex-1">
                {TYPE_WORDS[field.type]}
                {field.choices !== undefined && `: ${field.choices.join(", ")}`}
              </span>
              <button
                type="button"
                className="btn btn-xs"
                onClick={() => write.mutate({ body: { fields: fields.filter((each) => each.id !== field.id) } })}
              >
                Remove
              </button>
            </li>
          ))}
        </ul>
      )}
      <form
        className="flex flex-wrap items-end gap-2 text-sm"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <label>
          Name
          <input
            className="input input-sm block w-36"
            required
            maxLength={200}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <label>
          Type
          <select
            className="select select-sm block w-32"
            value={type}
            onChange={(event) => setType(event.target.value as OwnField["type"])}
          >
            {OWN_FIELD_TYPES.map((each) => (
              <option key={each} value={each}>
                {TYPE_WORDS[each]}
              </option>
            ))}
          </select>
        </label>
        {type === "choice" && (
          <label className="flex-1">
            Choices, by commas
            <input
              className="input input-sm block w-full"
              required
              value={choices}
              onChange={(event) => setChoices(event.target.value)}
            />
          </label>
        )}
        <button className="btn btn-sm" disabled={write.isPending}>
          Add
        </button>
      </form>
    </Dialog>
  );
}

/** The tree of portfolios and programmes, and which project is part of which. */
export function ProgrammesDialog({ portfolio, onClose }: { portfolio: Portfolio; onClose: () => void }) {
  const add = usePortfolioWrite("POST /api/programmes");
  const write = usePortfolioWrite("PUT /api/programmes/:programme");
  const place = usePortfolioWrite("PUT /api/projects/:project/standing");
  const [name, setName] = useState("");
  const tree = inTreeOrder(portfolio.programmes);
  const options = tree.map(({ programme, depth }) => (
    <option key={programme.id} value={programme.id}>
      {"  ".repeat(depth)}
      {programme.name}
    </option>
  ));
  return (
    <Dialog title="Portfolios and programmes" onClose={onClose}>
      <ul className="text-sm">
        {tree.map(({ programme, depth }) => (
          <li
            key={programme.id}
            className="flex items-center gap-2 border-b rule py-1"
            style={{ paddingLeft: `${depth}rem` }}
          >
            <CommitField
              label={`Name of ${programme.name}`}
              width="w-44"
              value={programme.name}
              onCommit={async (text) => {
                try {
                  await write.mutateAsync({
                    params: { programme: programme.id },
                    body: { name: text, parent: programme.parent },
                  });
                  return null;
                } catch (error) {
                  return error instanceof Error ? error.message : String(error);
                }
              }}
            />
            <label className="muted ml-auto">
              part of{" "}
              <select
                className="select select-sm w-40"
                aria-label={`${programme.name} is part of`}
                value={programme.parent ?? ""}
                onChange={(event) =>
                  write.mutate({
                    params: { programme: programme.id },
                    body: { name: programme.name, parent: event.target.value === "" ? null : event.target.value },
                  })
                }
              >
                <option value="">nothing</option>
                {options}
              </select>
            </label>
          </li>
        ))}
      </ul>
      <form
        className="flex gap-2 py-2 text-sm"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate({ body: { name } }, { onSuccess: () => setName("") });
        }}
      >
        <input
          className="input input-sm flex-1"
          aria-label="Name of a new portfolio or programme"
          placeholder="A new portfolio or programme"
          required
          maxLength={200}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button className="btn btn-sm" disabled={add.isPending}>
          Add
        </button>
      </form>
      <h3 className="pt-1 text-sm">Projects</h3>
      <ul className="max-h-56 overflow-auto text-sm" tabIndex={0} aria-label="Projects and their programmes">
        {portfolio.projects.map((line) => (
          <li key={line.id} className="flex items-center gap-2 border-b rule py-0.5">
            <span className="flex-1 truncate">
              {line.code} {line.name}
            </span>
            <select
              className="select select-sm w-44"
              aria-label={`Programme of ${line.name}`}
              disabled={!line.mayEdit}
              value={line.programme ?? ""}
              onChange={(event) =>
                place.mutate({
                  params: { project: line.id },
                  body: { programme: event.target.value === "" ? null : event.target.value },
                })
              }
            >
              <option value="">none</option>
              {options}
            </select>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
