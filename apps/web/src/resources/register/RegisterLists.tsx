import type { WriteRegister } from "@chronometra/contract";
import type { Team } from "@chronometra/core";
import { useQueryClient } from "@tanstack/react-query";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { newId } from "../stored/newId.ts";
import { undoToast } from "../../shared/dialogs/undoToast.ts";
import { registerQuery } from "../stored/queries.ts";
import { putRow, takeBackRow } from "../stored/registerCalls.ts";
import { usedWords, type RegisterPartProps } from "./registerParts.ts";
import { RemoveRow } from "./RemoveRow.tsx";

const NAMELESS = "It needs a name.";

/** Keeps a row in the register alone; gives what speaks against it. */
function usePut(): (change: WriteRegister["change"], seen: object | null) => Promise<string | null> {
  const client = useQueryClient();
  return async (change, seen) => {
    try {
      await putRow(change, seen);
      undoToast(client, {
        revisions: [],
        words: `${change.row.name} is saved in the register.`,
        also: () => takeBackRow(change, seen),
      });
      return null;
    } catch (error) {
      return error instanceof Error ? error.message : String(error);
    } finally {
      // Refused as well: what someone else has written stands there then.
      await client.invalidateQueries({ queryKey: registerQuery.queryKey });
    }
  };
}

/** Teams of the installation: a project takes one over with those of its members who are in it. */
export function RegisterTeams({ register }: RegisterPartProps) {
  const put = usePut();
  const { teams, mayWrite } = register;
  const names = new Map(register.people.map(({ row }) => [row.id, row.name]));
  const idOf = (text: string): string | null => {
    const found = register.people.filter(({ row }) => row.name.toLowerCase() === text.toLowerCase());
    return found.length === 1 ? found[0]!.row.id : null;
  };
  const members =
    (team: Team) =>
    (text: string): Promise<string | null> | string => {
      const parts = text
        .split(";")
        .map((part) => part.trim())
        .filter((part) => part !== "");
      const unknown = parts.find((part) => idOf(part) === null);
      if (unknown !== undefined) return `“${unknown}” is nobody of the register, or several; write the whole name.`;
      return put({ table: "teams", row: { ...team, members: [...new Set(parts.map((part) => idOf(part)!))] } }, team);
    };
  return (
    <table className="ledger panel-table max-w-5xl" aria-label="Teams">
      <thead>
        <tr>
          <th>Team</th>
          <th>Members, divided by ;</th>
          <th>Used in</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {teams.map(({ row, projects }) => (
          <tr key={row.id}>
            <td>
              <CommitField
                label={`Name of ${row.name}`}
                value={row.name}
                width="w-48"
                disabled={!mayWrite}
                onCommit={(text) =>
                  text.trim() === "" ? NAMELESS : put({ table: "teams", row: { ...row, name: text.trim() } }, row)
                }
              />
            </td>
            <td>
              <CommitField
                label={`Members of ${row.name}`}
                value={row.members.map((id) => names.get(id) ?? id).join("; ")}
                width="w-full min-w-80"
                disabled={!mayWrite}
                onCommit={members(row)}
              />
            </td>
            <td className="muted">{usedWords(projects)}</td>
            <td>{mayWrite && <RemoveRow kept={{ table: "teams", row }} />}</td>
          </tr>
        ))}
        {mayWrite && (
          <tr>
            <td colSpan={4}>
              <CommitField
                label="Add a team"
                value=""
                adds
                width="w-48"
                placeholder="a further team"
                onCommit={(text) =>
                  text.trim() === ""
                    ? NAMELESS
                    : put({ table: "teams", row: { id: newId("t"), name: text.trim(), members: [] } }, null)
                }
              />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

/** Cost categories of the installation. */
export function RegisterCategories({ register }: RegisterPartProps) {
  const put = usePut();
  const { categories, mayWrite } = register;
  return (
    <table className="ledger panel-table max-w-3xl" aria-label="Cost categories">
      <thead>
        <tr>
          <th>Cost category</th>
          <th>Used in</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {categories.map(({ row, projects }) => (
          <tr key={row.id}>
            <td>
              <CommitField
                label={`Name of ${row.name}`}
                value={row.name}
                width="w-64"
                disabled={!mayWrite}
                onCommit={(text) =>
                  text.trim() === "" ? NAMELESS : put({ table: "categories", row: { ...row, name: text.trim() } }, row)
                }
              />
            </td>
            <td className="muted">{usedWords(projects)}</td>
            <td>{mayWrite && <RemoveRow kept={{ table: "categories", row }} />}</td>
          </tr>
        ))}
        {mayWrite && (
          <tr>
            <td colSpan={3}>
              <CommitField
                label="Add a cost category"
                value=""
                adds
                width="w-64"
                placeholder="a further category"
                onCommit={(text) =>
                  text.trim() === ""
                    ? NAMELESS
                    : put({ table: "categories", row: { id: newId("c"), name: text.trim() } }, null)
                }
              />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
