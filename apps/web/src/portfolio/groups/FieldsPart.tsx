import { OWN_FIELD_TYPES, type OwnField } from "@chronometra/core";
import { useState } from "react";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { usePortfolioWrite } from "../usePortfolioWrite.ts";
import { Part } from "./Part.tsx";

const TYPE_WORDS: Record<OwnField["type"], string> = {
  text: "text",
  number: "number",
  date: "date",
  choice: "one of a list",
  yesNo: "yes or no",
};

type Write = ReturnType<typeof usePortfolioWrite<"PUT /api/portfolio/fields">>;

/** A field to be added, with its type and choices. */
function NewField({ fields, write }: { fields: readonly OwnField[]; write: Write }) {
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
  );
}

/** Fields of one's own that every project has. */
export function FieldsPart({ fields }: { fields: readonly OwnField[] }) {
  const write = usePortfolioWrite("PUT /api/portfolio/fields");
  return (
    <Part title="Own fields of projects">
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
      <NewField fields={fields} write={write} />
    </Part>
  );
}
