const keyOf = (table: string): string => `chronometra.columns.${table}`;

/** The columns someone has put away in a table, `null` where they have not chosen yet. */
export function keptHidden(table: string): string[] | null {
  const kept = localStorage.getItem(keyOf(table));
  return kept === null ? null : kept.split(",").filter((id) => id !== "");
}

export const keepHidden = (table: string, hidden: readonly string[]): void => localStorage.setItem(keyOf(table), hidden.join(","));
