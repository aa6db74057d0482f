import type { Account, Accounts, Role } from "@chronometra/contract";

/** What holders of roles are called. */
export const ROLE_WORDS: Record<Role, string> = {
  controller: "controller",
  projectManager: "project manager",
  contributor: "contributor",
  approver: "approver",
  reader: "reader",
  administrator: "administrator",
};

/** What an account may act as, and for which groups where that is not the whole house. */
export const rolesInWords = ({ roles, only }: Pick<Account, "roles" | "only">, groups: Accounts["groups"]): string =>
  roles.length === 0
    ? "nothing yet"
    : roles
        .map((role) => {
          const names = only[role]?.map(
            (id) => groups.find((group) => group.id === id)?.name ?? "a group that is gone",
          );
          return names === undefined ? ROLE_WORDS[role] : `${ROLE_WORDS[role]} (${names.join(", ")})`;
        })
        .join(", ");
