import type { Box, BoxedRow, Boxes } from "@chronometra/contract";
import { boxesInOrder, standingIn, type Plan, type Timebox } from "@chronometra/core";

/** A timebox as the page shows it: days and order as they are about to be, sums as they were counted last. */
export interface ShownBox {
  readonly box: Timebox;
  /** `null` until it has been counted. */
  readonly counted: Box | null;
  readonly rows: readonly BoxedRow[];
}

/** What of the page is asked for. */
export interface BoxesAsked {
  /** The branch whose work waits and whose boxes are shown; of all where it is empty. */
  readonly branch: string;
  readonly words: string;
}

export const boxesAskedIn = (params: URLSearchParams): BoxesAsked => ({
  branch: params.get("branch") ?? "",
  words: params.get("words") ?? "",
});

/** Timeboxes and what waits, with what is on its way to the server; rows are shown once they have been counted. */
export function shownBoxes(
  plan: Plan,
  told: Boxes,
  { branch, words }: BoxesAsked,
): { readonly boxes: readonly ShownBox[]; readonly waiting: readonly BoxedRow[] } {
  const rows = new Map([...told.waiting, ...told.boxes.flatMap(({ works }) => works)].map((row) => [row.id, row]));
  const counted = new Map(told.boxes.map((box) => [box.id, box]));
  const wanted = words.trim().toLowerCase();
  const rowsOf = (box: string | null): BoxedRow[] => standingIn(plan, box).flatMap(({ id }) => rows.get(id) ?? []);
  const isAsked = (row: BoxedRow): boolean =>
    (branch === "" || row.branches.includes(branch)) && `${row.path} ${row.name}`.toLowerCase().includes(wanted);
  return {
    boxes: boxesInOrder(plan)
      .filter((box) => branch === "" || box.branch === undefined || box.branch === branch)
      .map((box) => ({ box, counted: counted.get(box.id) ?? null, rows: rowsOf(box.id) })),
    // What is finished waits for nothing, parked work counts for nothing.
    waiting: rowsOf(null).filter((row) => row.state !== "complete" && !row.parked && isAsked(row)),
  };
}

/** Where something comes to stand one place up or down: over the ends of boxes, to the one before or after. */
export function stepped(
  sections: readonly { readonly box: string | null; readonly ids: readonly string[] }[],
  id: string,
  by: 1 | -1,
): { readonly box: string | null; readonly before: string | null } | null {
  const at = sections.findIndex(({ ids }) => ids.includes(id));
  const { box, ids } = sections[at]!;
  const place = ids.indexOf(id);
  if (by === -1 && place > 0) return { box, before: ids[place - 1]! };
  if (by === 1 && place < ids.length - 1) return { box, before: ids[place + 2] ?? null };
  const next = sections[at + by];
  if (next === undefined) return null;
  return { box: next.box, before: by === 1 ? (next.ids[0] ?? null) : null };
}
