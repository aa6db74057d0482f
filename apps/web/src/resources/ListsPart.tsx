import { renameCategory, type Change } from "@chronometra/core";
import { telling } from "../shared/messages/telling.ts";
import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { money } from "../shared/words/words.ts";
import { newId } from "./stored/newId.ts";
import type { PartProps } from "./stored/partProps.ts";

/** Takes a line out of the plan; why it cannot be is told. */
export const Remove = ({ what, onRemove }: { what: string; onRemove: () => Promise<string | null> }) => (
  <RemoveButton what={what} onRemove={telling(onRemove)} />
);

/** Why a text cannot be the name of a line beside those taken; `null` where it can. */
export const named = (text: string, taken: Iterable<{ readonly name: string }>): string | null => {
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
