import equal from "fast-deep-equal";
import type { Sheet, SheetRow } from "./sheet.ts";

/** A sheet as it is sent to a page that has the one before: rows that stay as they were are named by their place there. */
export interface SheetPatch extends Omit<Sheet, "rows" | "links"> {
  readonly rows: readonly (number | SheetRow)[];
  /** Left out where they are as before. */
  readonly links?: Sheet["links"];
}

/** What to send of a sheet; handing over ten thousand rows anew for each key would hold up the page. */
export function patchOf(before: Sheet | null, after: Sheet): SheetPatch {
  const { links, ...rest } = after;
  if (before === null) return after;
  const placeOf = new Map(before.rows.map((row, i) => [row.id, i]));
  const rows = after.rows.map((row) => {
    const place = placeOf.get(row.id);
    return place !== undefined && equal(before.rows[place], row) ? place : row;
  });
  return { ...rest, rows, ...(equal(before.links, links) ? {} : { links }) };
}

/** The sheet that a patch makes of the one before; rows that stay are the same objects. */
export function patched(before: Sheet | null, patch: SheetPatch): Sheet {
  return {
    ...patch,
    rows: patch.rows.map((row) => (typeof row === "number" ? before!.rows[row]! : row)),
    links: patch.links ?? before!.links,
  };
}
