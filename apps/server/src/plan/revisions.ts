import type { DataSource } from "typeorm";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { Failure, orNotFound } from "../shared/failure.ts";

/** The revision at which a project was in a state: `plan`, `period-3`, `baseline-1`; a what-if stands beside the newest. */
export async function revisionOf(database: DataSource, project: ProjectEntity, state: string): Promise<number> {
  if (state === "plan" || state.startsWith("whatif-")) return project.revision;
  if (/^revision-\d{1,9}$/.test(state)) return Math.min(project.revision, Number(state.slice("revision-".length)));
  if (state.startsWith("asked-")) {
    const [asked] = (await database.query(
      "select revision from approval where project_id = ? and id = ? and revision is not null",
      [project.id, state.slice("asked-".length)],
    )) as { revision: number }[];
    return orNotFound(asked ?? null, `state "${state}"`).revision;
  }
  const match = /^(period|baseline)-(\d{1,6})$/.exec(state);
  if (match === null)
    throw new Failure("invalid", `"${state}" is no state of a plan; name plan, baseline-1 or period-1.`);
  const number = Number(match[2]);
  const [found] = (await (match[1] === "period"
    ? database.query(
        "select revision from issued_period where project_id = ? and number = ? order by edition desc limit 1",
        [project.id, number],
      )
    : database.query(
        "select revision from change_list where project_id = ? and instr(touched, ?) > 0 order by revision limit 1",
        [project.id, `"baselines/${number}"`],
      ))) as { revision: number }[];
  return orNotFound(found ?? null, `state "${state}"`).revision;
}
