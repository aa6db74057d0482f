import { OWN_FIELD_TYPES, removeOwnField, renameCategory, type Change, type OwnField } from "@chronometra/core";
import { X } from "lucide-react";
import { toast } from "../shared/messages/toast.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { countWords, money } from "../shared/words/words.ts";
import { newId } from "./stored/newId.ts";
import type { PartProps } from "./stored/partProps.ts";

function Remove({ what, onRemove }: { what: string; onRemove: () => Promise<string | null> }) {
  const remove = async (): Promise<void> => {
    const fault = await onRemove();
    if (fault !== null) toast.error(fault);
  };
  return (
    <button
      type="button"
      className="btn btn-ghost btn-xs btn-square"
      aria-label={`Remove ${what}`}
      onClick={() => void remove()}
    >
      <X size={12} aria-hidden="true" />
    </button>
  );
}

const named = (text: string, taken: Iterable<{ readonly name: string }>): string | null => {
  if (text.trim() === "") return "It needs a name.";
  return [...taken].some(({ name }) => name.toLowerCase() === text.trim().toLowerCase())
    ? `There is “${text.trim()}” already.`
    : null;
};

/** Teams: who belongs together, for asking about their work as one. */
export function TeamsPart({ view, plan, change }: PartProps) {
  const people = [...plan.people.values()];
  const idOf = (text: string): string | undefined =>
    people.find(({ name }) => name.toLowerCase() === text.trim().toLowerCase())?.id ??
    (people.filter(({ name }) => name.toLowerCase().startsWith(text.trim().toLowerCase())).length === 1
      ? people.find(({ name }) => name.toLowerCase().startsWith(text.trim().toLowerCase()))!.id
      : undefined);
  const members =
    (key: string, name: string) =>
    (text: string): Promise<string | null> | string => {
      const names = text
        .split(";")
        .map((part) => part.trim())
        .filter((part) => part !== "");
      const unknown = names.find((part) => idOf(part) === undefined);
      if (unknown !== undefined) return `“${unknown}” is nobody, or not one person only; write the whole name.`;
      return change(
        [{ type: "editRow", table: "teams", key, set: { members: [...new Set(names.map((part) => idOf(part)!))] } }],
        `${name} has new members.`,
      );
    };
  const add = (text: string): Promise<string | null> | string => {
    const id = newId("t");
    return (
      named(text, plan.teams.values()) ??
      change(
        [{ type: "addRow", table: "teams", key: id, row: { id, name: text.trim(), members: [] } }],
        `The team ${text.trim()} is made.`,
      )
    );
  };
  return (
    <table className="ledger panel-table max-w-4xl" aria-label="Teams">
      <thead>
        <tr>
          <th>Team</th>
          <th>Members, divided by ;</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {[...plan.teams].map(([key, { name, members: ids }]) => (
          <tr key={key}>
            <td>
              <CommitField
                label={`Name of ${name}`}
                value={name}
                width="w-48"
                disabled={!view.mayEdit}
                onCommit={(text) =>
                  named(
                    text,
                    [...plan.teams.values()].filter(({ id }) => id !== key),
                  ) ??
                  change([{ type: "editRow", table: "teams", key, set: { name: text.trim() } }], "The team is renamed.")
                }
              />
            </td>
            <td>
              <CommitField
                label={`Members of ${name}`}
                value={ids.map((id) => plan.people.get(id)?.name ?? id).join("; ")}
                width="w-full min-w-96"
                disabled={!view.mayEdit}
                onCommit={members(key, name)}
              />
            </td>
            <td>
              {view.mayEdit && (
                <Remove
                  what={name}
                  onRemove={() => change([{ type: "removeRow", table: "teams", key }], `The team ${name} is removed.`)}
                />
              )}
            </td>
          </tr>
        ))}
        {view.mayEdit && (
          <tr>
            <td colSpan={3}>
              <CommitField label="Add a team" value="" adds width="w-48" placeholder="a further team" onCommit={add} />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

/** Cost categories: those that are kept, and those that costs name. */
export function CategoriesPart({ view, plan, change }: PartProps) {
  const digits = plan.project.minorDigits ?? 2;
  const kept = new Map([...plan.categories].map(([key, { name }]) => [name, key]));
  const names = [...new Set([...kept.keys(), ...[...plan.costs.values()].map(({ category }) => category)])];
  const add = (text: string): Promise<string | null> | string => {
    const id = newId("c");
    return (
      named(text, plan.categories.values()) ??
      change(
        [{ type: "addRow", table: "categories", key: id, row: { id, name: text.trim() } }],
        `The category ${text.trim()} is kept.`,
      )
    );
  };
  const rename =
    (name: string) =>
    (text: string): Promise<string | null> | string => {
      const fault = named(
        text,
        names.filter((each) => each !== name).map((each) => ({ name: each })),
      );
      if (fault !== null) return fault;
      const key = kept.get(name);
      const changes: Change[] =
        key === undefined
          ? [...plan.costs].flatMap(([cost, { category }]): Change[] =>
              category === name ? [{ type: "editRow", table: "costs", key: cost, set: { category: text.trim() } }] : [],
            )
          : renameCategory(plan, key, text.trim());
      return change(changes, `${name} is called ${text.trim()} now.`);
    };
  return (
    <table className="ledger panel-table max-w-3xl" aria-label="Cost categories">
      <thead>
        <tr>
          <th>Category</th>
          <th className="num">Planned costs</th>
          <th className="num">{plan.project.currency}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {names.map((name) => {
          const own = [...plan.costs.values()].filter(({ category }) => category === name);
          const key = kept.get(name);
          return (
            <tr key={name}>
              <td>
                <CommitField
                  label={`Name of ${name}`}
                  value={name}
                  width="w-56"
                  disabled={!view.mayEdit}
                  onCommit={rename(name)}
                />
              </td>
              <td className="num">{own.length}</td>
              <td className="num">
                {money(
                  own.reduce((sum, { plannedMinor }) => sum + plannedMinor, 0),
                  digits,
                )}
              </td>
              <td>
                {view.mayEdit && key !== undefined && own.length === 0 && (
                  <Remove
                    what={name}
                    onRemove={() => change([{ type: "removeRow", table: "categories", key }], `${name} is removed.`)}
                  />
                )}
              </td>
            </tr>
          );
        })}
        {view.mayEdit && (
          <tr>
            <td colSpan={4}>
              <CommitField
                label="Add a category"
                value=""
                adds
                width="w-56"
                placeholder="a further category"
                onCommit={add}
              />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

const TYPE_WORDS: Readonly<Record<OwnField["type"], string>> = {
  text: "text",
  number: "number",
  date: "date",
  choice: "one of some choices",
  yesNo: "yes or no",
};

/** Fields of the plan's own, which every activity can have a value in. */
export const FIELD_HINT = "Zone: North, South";

/** A field of one's own as it is typed: a name, or a name and its choices. */
export function readField(text: string): { name: string; choices: string[] } {
  const [name = "", list] = text.split(/:(.*)/);
  return {
    name: name.trim(),
    choices: [
      ...new Set(
        list
          ?.split(/[;,]/)
          .map((part) => part.trim())
          .filter((part) => part !== "") ?? [],
      ),
    ],
  };
}

export function FieldsPart({ view, plan, change }: PartProps) {
  const filled = (key: string): number => [...plan.ownValues.values()].filter((values) => key in values).length;
  const add = (text: string): Promise<string | null> | string => {
    const { name, choices } = readField(text);
    const id = newId("f");
    return (
      named(name, plan.fields.values()) ??
      change(
        [
          {
            type: "addRow",
            table: "fields",
            key: id,
            row: { id, name, ...(choices.length > 0 ? { type: "choice", choices } : { type: "text" }) },
          },
        ],
        `The field ${name} is made; select it among the plan's columns.`,
      )
    );
  };
  const setType = async (key: string, { name }: OwnField, type: OwnField["type"]): Promise<void> => {
    const fault = await change(
      [{ type: "editRow", table: "fields", key, set: { type, choices: type === "choice" ? ["First choice"] : null } }],
      `${name} holds ${TYPE_WORDS[type]} now.`,
    );
    if (fault !== null) toast.error(`${fault}. Clear what is written in the field first.`);
  };
  const setChoices =
    (key: string, { name }: OwnField) =>
    (text: string): Promise<string | null> | string => {
      const choices = [
        ...new Set(
          text
            .split(";")
            .map((part) => part.trim())
            .filter((part) => part !== ""),
        ),
      ];
      return choices.length === 0
        ? "It needs at least one choice."
        : change([{ type: "editRow", table: "fields", key, set: { choices } }], `${name} has new choices.`);
    };
  return (
    <table className="ledger panel-table max-w-5xl" aria-label="Own fields">
      <thead>
        <tr>
          <th>Field</th>
          <th>Holds</th>
          <th>Choices, divided by ;</th>
          <th className="num">Filled in</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {[...plan.fields].map(([key, field]) => (
          <tr key={key}>
            <td>
              <CommitField
                label={`Name of ${field.name}`}
                value={field.name}
                width="w-48"
                disabled={!view.mayEdit}
                onCommit={(text) =>
                  named(
                    text,
                    [...plan.fields.values()].filter(({ id }) => id !== key),
                  ) ??
                  change(
                    [{ type: "editRow", table: "fields", key, set: { name: text.trim() } }],
                    "The field is renamed.",
                  )
                }
              />
            </td>
            <td>
              <select
                className="select select-xs w-40"
                aria-label={`What ${field.name} holds`}
                disabled={!view.mayEdit}
                value={field.type}
                onChange={(event) => void setType(key, field, event.target.value as OwnField["type"])}
              >
                {OWN_FIELD_TYPES.map((type) => (
                  <option key={type} value={type}>
                    {TYPE_WORDS[type]}
                  </option>
                ))}
              </select>
            </td>
            <td>
              {field.type === "choice" && (
                <CommitField
                  label={`Choices of ${field.name}`}
                  value={(field.choices ?? []).join("; ")}
                  width="w-full min-w-72"
                  disabled={!view.mayEdit}
                  onCommit={setChoices(key, field)}
                />
              )}
            </td>
            <td className="num">{countWords(filled(key), "activity", "activities")}</td>
            <td>
              {view.mayEdit && (
                <Remove
                  what={field.name}
                  onRemove={() =>
                    change(removeOwnField(plan, key), `${field.name} is removed, with what was written in it.`)
                  }
                />
              )}
            </td>
          </tr>
        ))}
        {view.mayEdit && (
          <tr>
            <td colSpan={5}>
              <CommitField label="Add a field" value="" adds width="w-80" placeholder={FIELD_HINT} onCommit={add} />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
