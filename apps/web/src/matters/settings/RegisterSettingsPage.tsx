import {
  MATTER_KIND_WORDS,
  MATTER_KINDS,
  type MatterKind,
  type Matters,
  type MatterSettings,
} from "@chronometra/contract";
import { OWN_FIELD_TYPES, type OwnField } from "@chronometra/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { undoToast } from "../../shared/dialogs/undoToast.ts";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { movedBy } from "../../shared/fields/movedBy.ts";
import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";
import { telling } from "../../shared/messages/telling.ts";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { mattersQuery } from "../queries.ts";

/** Writes what registers are kept by; gives why it cannot be, or nothing. */
type Write = (value: MatterSettings, words: string) => Promise<string | null>;

function useSettings(was: MatterSettings): Write {
  const client = useQueryClient();
  const put = async (from: MatterSettings, value: MatterSettings): Promise<void> => {
    await call("PUT /api/matters/settings", { body: { was: from, value } });
    for (const queryKey of [["matters"], ["lifeCycles"], ["gates"]]) void client.invalidateQueries({ queryKey });
  };
  return async (value, words) => {
    try {
      await put(was, value);
    } catch (error) {
      void client.invalidateQueries({ queryKey: ["matters"] });
      return error instanceof Error ? error.message : String(error);
    }
    undoToast(client, { revisions: [], words, also: () => put(value, was) });
    return null;
  };
}

const newId = (): string => crypto.randomUUID().slice(0, 13);

interface PartProps {
  readonly settings: MatterSettings;
  readonly mayEdit: boolean;
  readonly write: Write;
}

/** The scale of severity, from the least to the most. */
function Scale({ settings, mayEdit, write }: PartProps) {
  const { severities } = settings;
  const put = (next: MatterSettings["severities"], words: string) => write({ ...settings, severities: next }, words);
  return (
    <section aria-label="Scale of severity" className="max-w-2xl">
      <h2 className="pb-1 text-base">Scale of severity</h2>
      <p className="muted pb-1 text-sm">The least first. Risks lie in the matrix by it, and gates may ask for it.</p>
      <ol className="text-sm">
        {severities.map(({ id, name }, i) => (
          <li key={id} className="flex min-h-7 items-center gap-2 border-b rule py-0.5">
            <span className="figure w-6 text-right">{i + 1}</span>
            <span className="flex-1">
              {mayEdit ? (
                <CommitField
                  label={`Step ${i + 1}`}
                  width="w-52"
                  value={name}
                  onCommit={(text) =>
                    text.trim() === ""
                      ? "A step needs a name."
                      : put(
                          severities.map((step) => (step.id === id ? { id, name: text.trim() } : step)),
                          "It is called otherwise.",
                        )
                  }
                />
              ) : (
                name
              )}
            </span>
            {mayEdit && i > 0 && (
              <button
                type="button"
                className="btn btn-xs"
                aria-label={`Move ${name} up`}
                onClick={() => telling(put)(movedBy(severities, i, -1), "The order is changed.")}
              >
                ↑
              </button>
            )}
            {mayEdit && (
              <RemoveButton
                what={`the step ${name}`}
                stays={severities.length <= 2 ? "A scale has two steps at least" : undefined}
                onRemove={() =>
                  telling(put)(
                    severities.filter((step) => step.id !== id),
                    `The step ${name} is removed.`,
                  )
                }
              />
            )}
          </li>
        ))}
      </ol>
      {mayEdit && severities.length < 10 && (
        <div className="pt-1">
          <CommitField
            label="Another step, the most severe"
            placeholder="another step"
            width="w-52"
            adds
            value=""
            onCommit={(text) =>
              text.trim() === ""
                ? null
                : put([...severities, { id: newId(), name: text.trim() }], `The step ${text.trim()} is added.`)
            }
          />
        </div>
      )}
    </section>
  );
}

const TYPE_WORDS: Record<OwnField["type"], string> = {
  text: "text",
  number: "number",
  date: "date",
  choice: "one of a list",
  yesNo: "yes or no",
};

/** Adds an own field to a register. */
function NewField({ kind, onAdd }: { kind: MatterKind; onAdd: (field: OwnField) => Promise<string | null> }) {
  const [name, setName] = useState("");
  const [type, setType] = useState<OwnField["type"]>("text");
  const [choices, setChoices] = useState("");
  const add = async (): Promise<void> => {
    const list = [...new Set(choices.split(",").map((each) => each.trim()))].filter((each) => each !== "");
    const fault = await onAdd({
      id: newId(),
      name: name.trim(),
      type,
      ...(type === "choice" ? { choices: list } : {}),
    });
    if (fault !== null) return void toast.error(fault);
    setName("");
    setChoices("");
  };
  const what = MATTER_KIND_WORDS[kind][1];
  return (
    <form
      className="flex flex-wrap items-center gap-2 pt-1 text-sm"
      aria-label={`Another field of ${what}`}
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <input
        className="input input-sm w-40"
        aria-label={`Name of another field of ${what}`}
        placeholder="another field"
        required
        maxLength={200}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <select
        className="select select-sm w-32"
        aria-label="Type"
        value={type}
        onChange={(event) => setType(event.target.value as OwnField["type"])}
      >
        {OWN_FIELD_TYPES.map((each) => (
          <option key={each} value={each}>
            {TYPE_WORDS[each]}
          </option>
        ))}
      </select>
      {type === "choice" && (
        <input
          className="input input-sm w-56"
          aria-label="Choices, by commas"
          placeholder="choices, by commas"
          required
          value={choices}
          onChange={(event) => setChoices(event.target.value)}
        />
      )}
      <button className="btn btn-sm">Add</button>
    </form>
  );
}

/** The own fields of one register. */
function Fields({ kind, settings, mayEdit, write }: PartProps & { kind: MatterKind }) {
  const fields = settings.fields[kind] ?? [];
  const put = (next: OwnField[], words: string) =>
    write({ ...settings, fields: { ...settings.fields, [kind]: next } }, words);
  if (!mayEdit && fields.length === 0) return null;
  return (
    <section aria-label={`Own fields of ${MATTER_KIND_WORDS[kind][1]}`} className="max-w-2xl pt-4">
      <h3 className="pb-1 text-sm font-semibold">Own fields of {MATTER_KIND_WORDS[kind][1]}</h3>
      <ul className="text-sm">
        {fields.map((field) => (
          <li key={field.id} className="flex min-h-7 items-center gap-2 border-b rule">
            <span className="flex-1">
              {field.name}{" "}
              <span className="muted">
                {TYPE_WORDS[field.type]}
                {field.choices !== undefined && `: ${field.choices.join(", ")}`}
              </span>
            </span>
            {mayEdit && (
              <RemoveButton
                what={`the field ${field.name}`}
                onRemove={() =>
                  telling(put)(
                    fields.filter(({ id }) => id !== field.id),
                    `The field ${field.name} is removed; undone, what it says is back.`,
                  )
                }
              />
            )}
          </li>
        ))}
      </ul>
      {mayEdit && (
        <NewField kind={kind} onAdd={(field) => put([...fields, field], `The field ${field.name} is added.`)} />
      )}
    </section>
  );
}

function Settings({ shown: { settings, maySet } }: { shown: Matters }) {
  const write = useSettings(settings);
  const shared = { settings, mayEdit: maySet, write };
  return (
    <div className="page">
      <h1 className="pb-3 text-xl">Registers: scale and fields</h1>
      <Scale {...shared} />
      {MATTER_KINDS.map((kind) => (
        <Fields key={kind} kind={kind} {...shared} />
      ))}
    </div>
  );
}

/** What registers are kept by, in the whole house. */
export const RegisterSettingsPage = () => (
  <Loaded query={useQuery(mattersQuery(null, { mine: "1" }))}>{(shown) => <Settings shown={shown} />}</Loaded>
);
