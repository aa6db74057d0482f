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

/**
 * How activities of a project came to stand in timeboxes, the earliest first: as its lists of changes say, those that took
 * others back among them. Days are those of the installation.
 */
export async function boxMoves(database: DataSource, project: string): Promise<BoxMove[]> {
  const lists = (await database.query(
    `select at, changes from change_list where project_id = ? and instr(touched, '"boxed/') > 0 order by revision`,
    [project],
  )) as { at: Date; changes: string }[];
  const here = { timeZone: installationZone() };
  return lists.flatMap(({ at, changes }) => {
    const on = dayOf(here, at);
    return (JSON.parse(changes) as Change[]).flatMap(movedBy).map((move) => ({ ...move, on }));
  });
}
