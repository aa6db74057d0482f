import type { Account } from "@chronometra/contract";
import type { NotedField } from "../../shared/noted/noteHouse.ts";
import { ROLE_WORDS } from "../accessTable.ts";

type Noted = Pick<Account, "name" | "login" | "roles" | "only" | "person">;

/** An account as it is noted, its groups by their names. */
export const accountFields = (
  { name, login, roles, only, person }: Noted,
  groups: ReadonlyMap<string, string>,
): NotedField[] => [
  { field: "name", words: name },
  { field: "signs in as", words: login },
  { field: "roles", words: roles.map((role) => ROLE_WORDS[role]).join(", ") },
  ...roles.map((role) => ({
    field: `only for these groups, of ${ROLE_WORDS[role]}`,
    words: (only[role] ?? []).map((id) => groups.get(id) ?? id).join(", "),
  })),
  { field: "person in plans", words: person ?? "" },
];
