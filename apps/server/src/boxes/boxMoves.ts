import type { BoxMove, Change } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { dayOf, installationZone } from "../shared/clock.ts";

/** Where a change puts an activity; nothing where it is about something else. */
function movedBy(change: Change): Omit<BoxMove, "on">[] {
  if (!("table" in change) || change.table !== "boxed") return [];
  const activity = change.key;
  if (change.type === "removeRow") return [{ activity, box: null }];
  if (change.type === "addRow") return [{ activity, box: change.row.box ?? null }];
  return change.set.box === undefined ? [] : [{ activity, box: change.set.box }];
}

const movesOf = (changes: string | null): Omit<BoxMove, "on">[] =>
  changes === null ? [] : (JSON.parse(changes) as Change[]).flatMap(movedBy);

/**
 * How activities of a project came to stand in timeboxes, the earliest first: as its lists of changes say, those that
 * took others back among them. What stood somewhere before the first of them stood there from the beginning. Days are
 * those of the installation.
 */
export async function boxMoves(database: DataSource, project: string): Promise<BoxMove[]> {
  const lists = (await database.query(
    `select at, changes, inverse from change_list where project_id = ? and instr(touched, '"boxed/') > 0 order by revision`,
    [project],
  )) as { at: Date; changes: string; inverse: string | null }[];
  const here = { timeZone: installationZone() };
  const known = new Set<string>();
  const beginnings = new Map<string, string | null>();
  const moves = lists.flatMap(({ at, changes, inverse }): BoxMove[] => {
    for (const { activity, box } of movesOf(inverse)) if (!known.has(activity)) beginnings.set(activity, box);
    const on = dayOf(here, at);
    const moved = movesOf(changes).map((move) => ({ ...move, on }));
    for (const { activity } of moved) known.add(activity);
    return moved;
  });
  return [...[...beginnings].map(([activity, box]) => ({ activity, on: null, box })), ...moves];
}
