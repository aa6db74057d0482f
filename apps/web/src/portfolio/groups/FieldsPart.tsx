import { PROJECT_FIELD_TYPES, type Portfolio, type ProjectField, type WriteProjectFields } from "@chronometra/contract";
import { useState } from "react";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { countWords } from "../../shared/words/words.ts";
import { usePortfolioWrite } from "../usePortfolioWrite.ts";
import { ChoicesDialog } from "./ChoicesDialog.tsx";
import { Part } from "./Part.tsx";

const TYPE_WORDS: Record<ProjectField["type"], string> = {
  text: "text",
  number: "number",
  date: "date",
  choice: "one of a list",
  yesNo: "yes or no",
  money: "money",
  person: "person",
};

/** Fields that most houses want, ready to be added; the stage of a project is known without one. */
const READY: readonly Omit<ProjectField, "id">[] = [
  { name: "Priority", type: "choice", choices: ["high", "middle", "low"] },
  { name: "Sponsor", type: "person" },
  { name: "Line of business", type: "text" },
];

const newId = (): string => crypto.randomUUID().slice(0, 13);

/** Writes the fields beside those that were seen, so that two who add one at once add two. */
function useFields(seen: ProjectField[]) {
  const write = usePortfolioWrite("PUT /api/portfolio/fields");
  return {
    isPending: write.isPending,
    put: (fields: ProjectField[], then?: () => void, renamed?: WriteProjectFields["renamed"]): void =>
      write.mutate(
        { body: { fields, seen, ...(renamed === undefined ? {} : { renamed }) } },
        then === undefined ? {} : { onSuccess: then },
      ),
  };
}
type Writing = ReturnType<typeof useFields>;

interface NewProps {
  readonly fields: ProjectField[];
  readonly writing: Writing;
}

/** Those that most houses want and this one does not have. */
function Ready({ fields, writing }: NewProps) {
  const left = READY.filter(({ name }) => fields.every((field) => field.name.toLowerCase() !== name.toLowerCase()));
  if (left.length === 0) return null;
  return (
    <p className="flex flex-wrap items-center gap-1 pb-2 text-sm">
      <span className="muted">Ready to be added:</span>
      {left.map((field) => (
        <button
          key={field.name}
          type="button"
          className="btn btn-xs"
          disabled={writing.isPending}
          onClick={() => writing.put([...fields, { id: newId(), ...field }])}
        >
          {field.name}
        </button>
      ))}
    </p>
  );
}

/** A field to be added, with its type and choices. */
function NewField({ fields, writing }: NewProps) {
  const [name, setName] = useState("");
  const [type, setType] = useState<ProjectField["type"]>("text");
  const [choices, setChoices] = useState("");
  const add = (): void => {
    const list = choices
      .split(",")
      .map((each) => each.trim())
      .filter((each) => each !== "");
    const own = { id: newId(), name: name.trim(), type };
    writing.put([...fields, type === "choice" ? { ...own, choices: [...new Set(list)] } : own], () => {
      setName("");
      setChoices("");
    });
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
          onChange={(event) => setType(event.target.value as ProjectField["type"])}
        >
          {PROJECT_FIELD_TYPES.map((each) => (
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
      <button className="btn btn-sm" disabled={writing.isPending}>
        Add
      </button>
    </form>
  );
}

interface LineProps {
  readonly field: ProjectField;
  readonly fields: ProjectField[];
  readonly filled: number;
  readonly writing: Writing;
}

/** One field: what it is called, what it holds, in how many projects it says something. */
function FieldLine({ field, fields, filled, writing }: LineProps) {
  const [open, setOpen] = useState<"choices" | "remove" | null>(null);
  const close = (): void => setOpen(null);
  const others = fields.filter(({ id }) => id !== field.id);
  const put = (next: ProjectField, then?: () => void, renamed?: WriteProjectFields["renamed"]): void =>
    writing.put(
      fields.map((each) => (each.id === field.id ? next : each)),
      then,
      renamed,
    );
  return (
    <li className="flex items-center gap-2 border-b rule py-1">
      <CommitField
        label={`Name of ${field.name}`}
        width="w-40"
        value={field.name}
        onCommit={(text) =>
          text.trim() === "" ? "A field needs a name." : (put({ ...field, name: text.trim() }), null)
        }
      />
      <span className="muted flex-1">
        {TYPE_WORDS[field.type]}
        {field.choices !== undefined && `: ${field.choices.join(", ")}`}
        {filled > 0 && ` · in ${countWords(filled, "project", "projects")}`}
      </span>
      {field.type === "choice" && (
        <button
          type="button"
          className="btn btn-xs"
          aria-label={`Choices of ${field.name}`}
          onClick={() => setOpen("choices")}
        >
          Choices …
        </button>
      )}
      <button
        type="button"
        className="btn btn-xs"
        onClick={() => (filled > 0 ? setOpen("remove") : writing.put(others))}
      >
        Remove
      </button>
      {open === "choices" && (
        <ChoicesDialog
          field={field}
          isPending={writing.isPending}
          onSave={(choices, renamed) => put({ ...field, choices }, close, renamed)}
          onClose={close}
        />
      )}
      {open === "remove" && (
        <Dialog title={`Remove ${field.name}?`} onClose={close}>
          <p>
            {countWords(filled, "project says", "projects say")} something in it. That goes with the field and does not
            come back.
          </p>
          <div className="mt-3 flex justify-end gap-2">
            <button type="button" className="btn btn-sm" onClick={close}>
              Cancel
            </button>
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={writing.isPending}
              onClick={() => writing.put(others, close)}
            >
              Remove it with what it says
            </button>
          </div>
        </Dialog>
      )}
    </li>
  );
}

/** Fields of one's own that every project has. */
export function FieldsPart({ portfolio }: { portfolio: Pick<Portfolio, "fields" | "projects"> }) {
  const { fields, projects } = portfolio;
  const writing = useFields(fields);
  return (
    <Part title="Own fields of projects">
      {fields.length === 0 ? (
        <p className="muted pb-2 text-sm">None yet. They become columns, and projects can be grouped by them.</p>
      ) : (
        <ul className="pb-2 text-sm">
          {fields.map((field) => (
            <FieldLine
              key={field.id}
              field={field}
              fields={fields}
              filled={projects.filter(({ values }) => values[field.id] !== undefined).length}
              writing={writing}
            />
          ))}
        </ul>
      )}
      <Ready fields={fields} writing={writing} />
      <NewField fields={fields} writing={writing} />
    </Part>
  );
}
