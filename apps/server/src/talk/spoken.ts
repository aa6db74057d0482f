import type { Me, TalkPlace } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { lifeOf } from "../gates/gateLife.ts";
import { matterOf, seesMatter } from "../matters/matterRows.ts";
import { isClosed } from "../project/projectAccess.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import { maySee } from "../project/reach.ts";
import { workersOf } from "../project/worksIn.ts";
import { orNotFound } from "../shared/failure.ts";

type Reader = DataSource | EntityManager;

/** What is talked about, as it is now. */
export interface Spoken {
  readonly place: TalkPlace;
  /** What it is called, its project's code before it. */
  readonly name: string;
  /** The project that one must look into to see it, besides those whom it concerns. */
  readonly project: ProjectEntity | null;
  /** The page on which it stands. */
  readonly link: string;
  readonly isClosed: boolean;
  readonly isSeenBy: (who: Me) => boolean;
  /** Accounts, and persons that accounts are, who do it or answer for it. */
  readonly concerned: readonly string[];
}

/** Who works on an activity. */
async function doing(manager: Reader, projectId: string, activity: string): Promise<string[]> {
  const rows = (await manager.query(
    "select distinct person_id as person from plan_row where project_id = ? and table_name = 'assignments' and json_value(doc, '$.activity') = ?",
    [projectId, activity],
  )) as { person: string }[];
  return rows.map(({ person }) => person);
}

/** What something in a project is called there, where it stands, and whom it concerns; `null` where it is not there. */
async function within(
  manager: Reader,
  { about, aboutId }: TalkPlace,
  { id, managerId }: ProjectEntity,
): Promise<{ name: string; page: string; concerned: readonly string[] } | null> {
  const first = async (sql: string): Promise<string | null> =>
    ((await manager.query(sql, [id, aboutId])) as { name: string }[])[0]?.name ?? null;
  const named = (name: string | null, page: string, concerned: readonly string[] = [managerId]) =>
    name === null ? null : { name, page, concerned };
  switch (about) {
    case "activity":
      return named(
        await first(
          "select json_value(doc, '$.name') as name from plan_row where project_id = ? and table_name = 'activities' and row_key = ?",
        ),
        `plan?at=${encodeURIComponent(aboutId)}`,
        await doing(manager, id, aboutId),
      );
    case "gate":
      return named(
        (await lifeOf(manager, id))?.cycle.stages.find((stage) => stage.id === aboutId)?.gate ?? null,
        "stages",
      );
    case "report":
      return named(
        await first(
          "select concat('report of period ', r.number) as name from project p join reporting_period r on p.id = ? and r.number = ?",
        ),
        "report",
      );
    default:
      return aboutId === "" ? named("", "charter") : null;
  }
}

async function ofMatter(manager: Reader, place: TalkPlace): Promise<Spoken | null> {
  const row = place.project === "" ? await matterOf(manager, place.aboutId) : null;
  if (row === null) return null;
  const { code, title, managerId, groupManager, owner, raisedBy, projectId } = row;
  return {
    place,
    name: [code, title].filter((part) => part !== null).join(" "),
    project: projectId === null ? null : await manager.getRepository(ProjectEntity).findOneBy({ id: projectId }),
    link: `/registers?all=1&matter=${encodeURIComponent(place.aboutId)}`,
    isClosed: row.isClosed === 1,
    isSeenBy: (who) => seesMatter(who, row),
    concerned: [managerId, groupManager, owner, raisedBy].flatMap((id) => (id === null ? [] : [id])),
  };
}

/** What is talked about; `null` where it is not there any more. */
export async function spokenAt(manager: Reader, place: TalkPlace): Promise<Spoken | null> {
  if (place.about === "matter") return ofMatter(manager, place);
  const project = await manager.getRepository(ProjectEntity).findOneBy({ id: place.project });
  const found = project === null ? null : await within(manager, place, project);
  if (project === null || found === null) return null;
  // Who only works in a project sees its plan, not what is told and decided of it.
  const workers =
    place.about === "project" || place.about === "activity" ? await workersOf(manager, project.id) : new Set();
  return {
    place,
    name: `${project.head.code ?? ""} ${found.name === "" ? project.head.name : found.name}`.trim(),
    project,
    link: `/projects/${project.id}/${found.page}`,
    isClosed: await isClosed(manager, project),
    isSeenBy: (who) => maySee(who, project) || (who.person !== null && workers.has(who.person)),
    concerned: found.concerned,
  };
}

/** What is talked about, for someone who sees it. To others it is not there. */
export async function findSpoken(manager: Reader, me: Me, place: TalkPlace): Promise<Spoken> {
  const spoken = await spokenAt(manager, place);
  return orNotFound(spoken !== null && spoken.isSeenBy(me) ? spoken : null, "such thing to talk about");
}
