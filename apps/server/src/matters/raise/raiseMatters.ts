import { randomUUID } from "node:crypto";
import type { MatterView, MatterWrite, Me, NewMatter } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { storeChanges } from "../../plan/changeService.ts";
import { writeProject, type Writing } from "../../plan/writeProjects.ts";
import { ProgrammeEntity, type ProjectEntity } from "../../project/projectEntity.ts";
import { holdsIn } from "../../project/reach.ts";
import { todayOf } from "../../shared/clock.ts";
import { inTransaction } from "../../shared/database.ts";
import { Failure, orNotFound } from "../../shared/failure.ts";
import { viewMatter } from "../listMatters.ts";
import type { MatterRow } from "../matterRows.ts";
import { matterSettings } from "../matterSettings.ts";
import type { Telling } from "../../tell/post.ts";
import { tellOwner } from "../tellOfMatters.ts";
import { noteEvent, storeMatter } from "../writeMatters.ts";
import { assertFits, withWrite, type Written } from "../writes.ts";

/** The id of what there is to know of a project's risk. */
export const idOfRisk = (projectId: string, riskId: string): string => `${projectId}:${riskId}`;

/** A matter that begins, without what is written of it at once. */
const bare = (
  me: Me,
  { kind, project, group, title, chance = null }: NewMatter,
  of: { readonly id: string; readonly riskId: string | null },
): MatterRow => ({
  ...{ id: of.id, kind, projectId: project, groupId: group, riskId: of.riskId, title, state: "open", chance },
  ...{ severity: null, owner: null, raisedBy: me.id, raisedOn: todayOf(me), due: null, closedOn: null, content: "{}" },
  ...{
    expected: null,
    currency: null,
    digits: null,
    code: null,
    projectName: null,
    managerId: null,
    programmeId: null,
  },
  ...{ isClosed: 0, groupName: null, groupManager: null },
});

/** What is said of a new matter besides its title, as it is written. */
function firstWrites({ state = "open", text = "", severity = null, owner = null, ...more }: NewMatter): MatterWrite[] {
  const { due = null, strategy = null, response = "", ties = [], values = {} } = more;
  const all: MatterWrite[] = [
    { field: "state", was: "open", value: state },
    { field: "text", was: "", value: text },
    { field: "strategy", was: null, value: strategy },
    { field: "response", was: "", value: response },
    { field: "severity", was: null, value: severity },
    { field: "owner", was: null, value: owner },
    { field: "due", was: null, value: due },
    { field: "ties", was: [], value: ties },
    ...Object.entries(values).map(([of, value]): MatterWrite => ({ field: "values", of, was: null, value })),
  ];
  return all.filter(({ was, value }) => JSON.stringify(was) !== JSON.stringify(value));
}

/** Puts a matter into its register, within the transaction of what makes it. */
export async function beginMatter(
  manager: EntityManager,
  me: Me,
  asked: NewMatter,
  of: { readonly id: string; readonly riskId: string | null } = { id: randomUUID(), riskId: null },
): Promise<string> {
  const settings = await matterSettings(manager);
  let written: Written = { row: bare(me, asked, of), content: {}, ties: [], removed: false };
  for (const write of firstWrites(asked)) {
    await assertFits({ manager, row: written.row, settings }, write);
    written = withWrite(written, write, me);
  }
  await storeMatter(manager, written);
  await noteEvent(manager, me, of.id, { field: "Raised", was: "", value: asked.title });
  return of.id;
}

/** What its owner is told of a new matter. */
export const toldOf = (id: string, { kind, title, project, due = null }: NewMatter, code: string | null) => ({
  projectId: project,
  id,
  kind,
  title,
  due,
  code,
});

/** Puts things into the registers of a project that is being written; its risks into its plan, as one list of changes. */
export async function beginInProject(
  writing: Writing,
  project: ProjectEntity,
  list: readonly NewMatter[],
): Promise<string[]> {
  const { manager, me } = writing;
  const risks = new Map(list.filter(({ kind }) => kind === "risk").map((asked) => [asked, randomUUID().slice(0, 13)]));
  if (risks.size > 0)
    await storeChanges(writing, project, {
      changes: [...risks].map(([{ title, chance = null }, key]): Change => ({
        ...{ type: "addRow", table: "risks", key },
        row: { id: key, name: title, probability: chance!, effects: [] },
      })),
      label: risks.size === 1 ? `Risk “${[...risks.keys()][0]!.title}” added` : `${risks.size} risks added`,
    });
  const begun: string[] = [];
  for (const asked of list) {
    const riskId = risks.get(asked);
    const of = riskId === undefined ? undefined : { id: idOfRisk(project.id, riskId), riskId };
    begun.push(await beginMatter(manager, me, asked, of));
  }
  return begun;
}

/** Refuses whoever may not put something into the registers of a group, or of the house. */
export async function assertMayRaise(manager: EntityManager, me: Me, group: string | null): Promise<void> {
  if (group === null) {
    if (!holdsIn(me, "controller", null))
      throw new Failure("notAllowed", "What is of the whole house is put here by its controllers.");
    return;
  }
  const { managerId } = orNotFound(
    await manager.getRepository(ProgrammeEntity).findOneBy({ id: group }),
    "group of that address",
  );
  if (managerId !== me.id && !holdsIn(me, "controller", group))
    throw new Failure("notAllowed", "What is of a group is put here by its manager and by controllers.");
}

/** Refuses what is not whole. */
export function assertWhole({ kind, project, group, chance = null, state = "open" }: NewMatter): void {
  if (project !== null && group !== null)
    throw new Failure("invalid", "It is of a project or of a group, not of both.");
  if (kind === "risk" && chance === null) throw new Failure("invalid", "Say how likely the risk is, as a percent.");
  if (kind !== "risk" && chance !== null) throw new Failure("invalid", "Only a risk has a probability.");
  if (kind === "risk" && project !== null && state !== "open")
    throw new Failure("invalid", "A project’s risk begins as an open one.");
}

/**
 * Puts something into a register. A project's risk becomes one of its plan, so that chances can be reckoned with it.
 * @throws {Failure} notAllowed, invalid
 */
export async function raiseMatter(database: DataSource, me: Me, post: Telling, asked: NewMatter): Promise<MatterView> {
  assertWhole(asked);
  const { project, group } = asked;
  if (project === null) {
    const id = await inTransaction(database, async (manager) => {
      await assertMayRaise(manager, me, group);
      const begun = await beginMatter(manager, me, asked);
      await tellOwner(manager, post, me, toldOf(begun, asked, null), asked.owner ?? null);
      return begun;
    });
    return viewMatter(database, me, id);
  }
  const id = await writeProject(database, me, project, async (writing, found) => {
    const begun = (await beginInProject(writing, found, [asked]))[0]!;
    await tellOwner(writing.manager, post, me, toldOf(begun, asked, found.code), asked.owner ?? null);
    return begun;
  });
  return viewMatter(database, me, id);
}
