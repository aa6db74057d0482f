import { OWN_FIELD_TYPES, removeOwnField, type OwnField } from "@chronometra/core";
import { toast } from "../shared/messages/toast.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { countWords } from "../shared/words/words.ts";
import { newId } from "./stored/newId.ts";
import type { PartProps } from "./stored/partProps.ts";
import { Remove, named } from "./ListsPart.tsx";

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

type LineProps = Pick<PartProps, "view" | "plan" | "change"> & { readonly id: string; readonly field: OwnField };

/** One field: its name, what it holds, its choices, and whether it is filled in anywhere. */
function FieldLine({ id: key, field, view, plan, change }: LineProps) {
  const { name } = field;
  const filled = [...plan.ownValues.values()].filter((values) => key in values).length;
  const setType = async (type: OwnField["type"]): Promise<void> => {
    const fault = await change(
      [{ type: "editRow", table: "fields", key, set: { type, choices: type === "choice" ? ["First choice"] : null } }],
      `${name} holds ${TYPE_WORDS[type]} now.`,
    );
    if (fault !== null) toast.error(`${fault}. Clear what is written in the field first.`);
  };
  const setChoices = (text: string): Promise<string | null> | string => {
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
    <tr>
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
            change([{ type: "editRow", table: "fields", key, set: { name: text.trim() } }], "The field is renamed.")
          }
        />
      </td>
      <td>
        <select
          className="select select-xs w-40"
          aria-label={`What ${field.name} holds`}
          disabled={!view.mayEdit}
          value={field.type}
          onChange={(event) => void setType(event.target.value as OwnField["type"])}
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
            onCommit={setChoices}
          />
        )}
      </td>
      <td className="num">{countWords(filled, "activity", "activities")}</td>
      <td>
        {view.mayEdit && (
          <Remove
            what={field.name}
            onRemove={() => change(removeOwnField(plan, key), `${field.name} is removed, with what was written in it.`)}
          />
        )}
      </td>
    </tr>
  );
}

/** The project's own fields: added, renamed, given choices, taken away. */
export function OwnFieldsPart({ view, plan, change }: PartProps) {
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
          <FieldLine key={key} id={key} field={field} view={view} plan={plan} change={change} />
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
