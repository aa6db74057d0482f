import { PLACED_ROLES, ROLES, type Account, type Accounts, type Role } from "@chronometra/contract";
import { X } from "lucide-react";
import { inTreeOrder } from "../project/programmeTree.ts";
import { ROLE_WORDS } from "./roleWords.ts";

/** Roles of an account, and the groups for which some of them are given. */
export type Given = Pick<Account, "roles" | "only">;

interface Props {
  readonly given: Given;
  readonly groups: Accounts["groups"];
  readonly onGive: (given: Given) => void;
}

/** Where one role holds: everywhere, until it is said for which groups. */
function Where({ role, given, groups, onGive }: Props & { role: Role }) {
  const chosen = given.only[role] ?? [];
  const give = (ids: readonly string[]): void => {
    const { [role]: _was, ...others } = given.only;
    onGive({ ...given, only: ids.length === 0 ? others : { ...others, [role]: [...ids] } });
  };
  return (
    <span className="flex flex-wrap items-center gap-1">
      {chosen.length === 0 && <span className="muted">for the whole house</span>}
      {chosen.map((id) => {
        const name = groups.find((group) => group.id === id)?.name ?? "a group that is gone";
        return (
          <span key={id} className="flex items-center rounded border rule pl-1.5">
            {name}
            <button
              type="button"
              className="btn btn-ghost btn-xs btn-square min-h-[24px] min-w-[24px]"
              aria-label={`Not for ${name} as ${ROLE_WORDS[role]}`}
              onClick={() => give(chosen.filter((each) => each !== id))}
            >
              <X size={12} aria-hidden="true" />
            </button>
          </span>
        );
      })}
      {groups.length > 0 && (
        <select
          className="select select-xs min-h-[24px] w-32"
          aria-label={`Groups for which ${ROLE_WORDS[role]} is given`}
          value=""
          onChange={({ target }) => give([...chosen, target.value])}
        >
          <option value="">{chosen.length === 0 ? "only for …" : "and for …"}</option>
          {inTreeOrder(groups).map(({ programme, depth }) => (
            <option key={programme.id} value={programme.id} disabled={chosen.includes(programme.id)}>
              {"\u2003".repeat(depth)}
              {programme.name}
            </option>
          ))}
        </select>
      )}
    </span>
  );
}

/**
 * What an account may act as, and for which groups; one that is given for a group is given for what is below it too.
 */
export function RolesField({ given, groups, onGive }: Props) {
  const tick = (role: Role, isTicked: boolean): void => {
    const { [role]: _was, ...only } = given.only;
    const roles = ROLES.filter((each) => (each === role ? isTicked : given.roles.includes(each)));
    onGive({ roles, only: isTicked ? given.only : only });
  };
  return (
    <fieldset>
      <legend>May act as</legend>
      <ul className="text-sm">
        {ROLES.map((role) => (
          <li key={role} className="flex min-h-7 flex-wrap items-center gap-x-3">
            <label className="flex w-36 items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={given.roles.includes(role)}
                onChange={({ target }) => tick(role, target.checked)}
              />
              {ROLE_WORDS[role]}
            </label>
            {given.roles.includes(role) && (PLACED_ROLES as readonly Role[]).includes(role) && (
              <Where {...{ role, given, groups, onGive }} />
            )}
          </li>
        ))}
      </ul>
    </fieldset>
  );
}
