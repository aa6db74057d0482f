import {
  GROUP_SECTIONS,
  REPORT_SECTIONS,
  type GroupSection,
  type Me,
  type ReportSection,
  type WriteLayout,
} from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { organisationName } from "../cycle/cycleService.ts";
import { groupsBelow } from "../project/groupTree.ts";
import { holdsIn, mayEdit, maySee, seesGroup } from "../project/reach.ts";
import { ProgrammeEntity, ProjectEntity } from "../project/projectEntity.ts";
import { Failure } from "../shared/failure.ts";
import { ReportLayoutEntity } from "./reportEntities.ts";

/** The group of all groups: the whole portfolio. */
export const HOUSE = "house";

/** What a report is of: a project, or a group with all projects in and below it. */
export type Subject =
  | { readonly of: "project"; readonly id: string; readonly name: string; readonly project: ProjectEntity }
  | {
      readonly of: "group";
      readonly id: string;
      readonly name: string;
      /** Its projects by code, those that are closed too. */
      readonly projects: readonly ProjectEntity[];
    };

const gone = (): Failure => new Failure("notFound", "There is no project and no group of that address.");

const BY_CODE = { order: { code: "ASC" } } as const;

/** The project or group of an id. Throws a Failure where there is none. */
export async function findSubject(database: DataSource | EntityManager, id: string): Promise<Subject> {
  const projects = database.getRepository(ProjectEntity);
  if (id === HOUSE)
    return { of: "group", id, name: await organisationName(database), projects: await projects.find(BY_CODE) };
  const project = await projects.findOneBy({ id });
  if (project !== null) return { of: "project", id, name: project.head.name, project };
  const groups = await database.getRepository(ProgrammeEntity).find();
  const group = groups.find((each) => each.id === id);
  if (group === undefined) throw gone();
  const below = groupsBelow(groups, id);
  const all = await projects.find(BY_CODE);
  return {
    of: "group",
    id,
    name: group.name,
    projects: all.filter(({ programmeId }) => programmeId !== null && below.has(programmeId)),
  };
}

/** Whether someone may look into all that a report tells of. */
export const seesSubject = (me: Me, subject: Subject): boolean =>
  subject.of === "project" ? maySee(me, subject.project) : seesGroup(me, subject.id === HOUSE ? null : subject.id);

/** The project or group of an id, for someone who may look into all of it; to others it is not there. */
export async function subjectSeen(database: DataSource, me: Me, id: string): Promise<Subject> {
  const subject = await findSubject(database, id);
  if (!seesSubject(me, subject)) throw gone();
  return subject;
}

/** Whether someone may write a report: of a project whoever may change it, of a group a controller. */
export const mayWrite = (me: Me, subject: Subject): boolean =>
  subject.of === "project"
    ? mayEdit(me, subject.project)
    : holdsIn(me, "controller", subject.id === HOUSE ? null : subject.id);

/** Refuses whoever may not write a report. */
export function assertMayWrite(me: Me, subject: Subject): void {
  if (!mayWrite(me, subject))
    throw new Failure(
      "notAllowed",
      subject.of === "project"
        ? "Only the project's manager or a controller may write its report."
        : "Only controllers may write the report of a group, and how reports in it are laid out.",
    );
}

/** The groups in which something lies, the innermost first, the whole portfolio last. */
async function groupsAbove(manager: DataSource | EntityManager, subject: Subject): Promise<ProgrammeEntity[]> {
  const groups = new Map((await manager.getRepository(ProgrammeEntity).find()).map((each) => [each.id, each]));
  const above: ProgrammeEntity[] = [];
  let at = subject.of === "project" ? subject.project.programmeId : subject.id;
  for (; at !== null && groups.has(at) && above.length <= groups.size; at = groups.get(at)!.parentId)
    above.push(groups.get(at)!);
  return above;
}

/** The name of the group that a project lies in. */
export async function groupName(manager: DataSource | EntityManager, subject: Subject): Promise<string | null> {
  return (await groupsAbove(manager, subject))[0]?.name ?? null;
}

export interface Layout {
  /** Of reports of projects. */
  readonly sections: ReportSection[];
  /** Of the group's own report. */
  readonly groupSections: GroupSection[];
  /** The group that says so, by id and name; `null` where none does. */
  readonly from: { readonly id: string; readonly name: string } | null;
}

/** The parts of a list of names that are known; all of them where the list is empty. */
const partsIn = <T extends string>(names: string, known: readonly T[]): T[] =>
  names === "" ? [...known] : names.split(",").flatMap((name) => known.filter((each) => each === name));

const partsOf = ({ sections, groupSections }: Pick<ReportLayoutEntity, "sections" | "groupSections">) => ({
  sections: partsIn(sections, REPORT_SECTIONS),
  groupSections: partsIn(groupSections, GROUP_SECTIONS),
});

/** Which parts a report has, in which order: as the nearest group says that says anything. */
export async function layoutOf(manager: DataSource | EntityManager, subject: Subject): Promise<Layout> {
  const layouts = new Map(
    (await manager.getRepository(ReportLayoutEntity).find()).map((layout) => [layout.groupId, layout]),
  );
  const above = [...(await groupsAbove(manager, subject)), { id: HOUSE, name: "the whole portfolio" }];
  for (const { id, name } of above) {
    const layout = layouts.get(id);
    if (layout !== undefined) return { ...partsOf(layout), from: { id, name } };
  }
  return { ...partsOf({ sections: "", groupSections: "" }), from: null };
}

/** Says how reports of a group are laid out; `null` takes it from above again. */
export async function writeLayout(
  database: DataSource,
  subject: Subject,
  { sections, groupSections }: WriteLayout,
): Promise<void> {
  if (subject.of === "project") throw new Failure("invalid", "Reports are laid out for groups, not for one project.");
  const layouts = database.getRepository(ReportLayoutEntity);
  if (sections === null) await layouts.delete({ groupId: subject.id });
  else
    await layouts.upsert(
      {
        groupId: subject.id,
        sections: [...new Set(sections)].join(","),
        groupSections: [...new Set(groupSections)].join(","),
      },
      ["groupId"],
    );
}
