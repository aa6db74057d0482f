import type { BegunEffect } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { countWords } from "../../shared/words/words.ts";
import { registerQuery } from "../../resources/stored/queries.ts";

/** People of the register by the role they take; "" where it is kept open on purpose. */
export type Given = Readonly<Record<string, string>>;

/** The roles that somebody takes. */
export const rolesGiven = (given: Given): Given =>
  Object.fromEntries(Object.entries(given).filter(([, person]) => person !== ""));

/** So many roles are shown at once. */
const FEW = 9;

interface Props {
  readonly roles: BegunEffect["roles"];
  readonly given: Given;
  readonly onGiven: (given: Given) => void;
}

/** Who takes which role; one that nobody takes is kept open in the plan. */
export function RolesPart({ roles, given, onGiven }: Props) {
  const people = useQuery(registerQuery).data?.people ?? [];
  if (roles.length === 0) return null;
  return (
    <details className="pt-3 text-sm" open={roles.length <= FEW}>
      <summary className="cursor-pointer pb-1">
        Who takes which of {countWords(roles.length, "role", "roles")}; kept open where nobody is named yet
      </summary>
      <div className="grid max-w-5xl grid-cols-3 gap-x-6 gap-y-1">
        {roles.map(({ id, name }) => (
          <label key={id} className="flex items-center gap-2">
            <span className="w-28 truncate" title={name}>
              {name}
            </span>
            <select
              className="select select-xs flex-1"
              value={given[id] ?? ""}
              onChange={(event) => onGiven({ ...given, [id]: event.target.value })}
            >
              <option value="">kept open</option>
              {people.map(({ row }) => (
                <option key={row.id} value={row.id}>
                  {row.name}
                  {row.role === undefined ? "" : `, ${row.role}`}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
    </details>
  );
}
