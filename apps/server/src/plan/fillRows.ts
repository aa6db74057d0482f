import type { Me } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { keepRows } from "./stored/keepRows.ts";
import { rowsOfAll } from "./prepare.ts";
import { writeProjects } from "./writeProjects.ts";

/** The installation itself: no list of changes is stored in its name. */
const NOBODY: Me = { id: "", login: "", name: "", roles: [], person: null, timeZone: "UTC" };

/**
 * Writes the rows and figures of projects whose rows are not of their newest revision, such as those stored before rows
 * were kept.
 * @returns how many there were
 */
export async function fillRows(database: DataSource): Promise<number> {
  const stale = (await database.query("select id from project where kept_revision <> revision")) as { id: string }[];
  for (const { id } of stale) {
    await writeProjects(database, NOBODY, [id], async (writing) => {
      const { manager } = writing;
      const project = writing.project(id);
      // Another server that started beside this one may have written them meanwhile.
      if (project.keptRevision === project.revision) return;
      const plan = await writing.plan(project);
      await keepRows(manager, id, await rowsOfAll({ id, plan }, project.revision));
      await manager.query("update project set kept_revision = ? where id = ?", [project.revision, id]);
    });
  }
  return stale.length;
}
