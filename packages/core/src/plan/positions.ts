import { remembered } from "./remembered.ts";

/** The position of each row of a table by its id. */
export const positionsOf = remembered(
  (rows: readonly { readonly id: string }[]): ReadonlyMap<string, number> => new Map(rows.map(({ id }, i) => [id, i])),
);
