import { keepPreference, preference } from "../session/preferences.ts";

const nameOf = (table: string): string => `columns.${table.replace(/[^\w-]+/g, "-").slice(0, 50)}`;

/** The columns someone has put away in a table, `null` where they have not chosen yet. */
export const keptHidden = (table: string): string[] | null =>
  preference(nameOf(table))
    ?.split(",")
    .filter((id) => id !== "") ?? null;

export const keepHidden = (table: string, hidden: readonly string[]): void =>
  keepPreference(nameOf(table), hidden.join(","));
