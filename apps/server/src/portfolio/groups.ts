import { randomUUID } from "node:crypto";
import type { BodyOf, Groups, Me, Portfolio } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames, managersOf } from "../access/accounts.ts";
import { groupsBelow } from "../project/groupTree.ts";
import { ProgrammeEntity } from "../project/projectEntity.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { groupsShown, holdsEverywhere, holdsIn, seenSql } from "../project/reach.ts";

/** A group and where it lies. */
type PlacedGroup = Pick<Portfolio["programmes"][number], "id" | "name" | "parent">;

export const presentProgramme = ({
  id,
  name,
  parentId,
}: Pick<ProgrammeEntity, "id" | "name" | "parentId">): PlacedGroup => ({
  id,
  name,
  parent: parentId,
});

export const inOrder = (manager: DataSource | EntityManager): Promise<ProgrammeEntity[]> =>
  manager.getRepository(ProgrammeEntity).find({ order: { position: "ASC", name: "ASC" } });

/** The groups that hold a project which someone sees. */
async function groupsHolding(database: DataSource, me: Me): Promise<(string | null)[]> {
  const { sql, values } = seenSql(me, "p");
  const rows = (await database.query(`select distinct p.programme_id as id from project p where ${sql}`, [
    ...values,
  ])) as { id: string | null }[];
  return rows.map(({ id }) => id);
}

/** The groups that someone sees something of, in their order, and who may answer for one. */
export async function listGroups(database: DataSource, me: Me): Promise<Groups> {
  const [rows, names, managers, holding] = await Promise.all([
    inOrder(database),
    accountNames(database),
    managersOf(database),
    groupsHolding(database, me),
  ]);
  const shown = new Set(groupsShown(me, rows.map(presentProgramme), holding).map(({ id }) => id));
  const isShown = ({ id }: ProgrammeEntity): boolean => shown.has(id);
  return {
    groups: rows.filter(isShown).map((row) => ({
      ...presentProgramme(row),
      manager: row.managerId === null ? null : { id: row.managerId, name: names.get(row.managerId) ?? "" },
    })),
    managers,
    mayEdit: holdsEverywhere(me, "controller") || me.roles.includes("administrator"),
  };
}

async function assertFree(groups: readonly ProgrammeEntity[], name: string, id: string | null): Promise<void> {
  if (groups.some((each) => each.name === name && each.id !== id))
    throw new Failure("conflict", `There is a programme called "${name}" already.`);
}

const PLANNERS = ["controller", "projectManager"] as const;

/**
 * Adds a group at the end.
 * @throws {Failure} for whoever plans in other groups alone, a name that is taken, and a group above that is not there
 */
export function addProgramme(
  database: DataSource,
  me: Me,
  { name, parent = null }: BodyOf<"POST /api/programmes">,
): Promise<PlacedGroup> {
  return inTransaction(database, async (manager) => {
    const groups = await inOrder(manager);
    if (!me.roles.includes("administrator") && !PLANNERS.some((role) => holdsIn(me, role, parent)))
      throw new Failure("notAllowed", "Your role is for other groups; make it part of one of those.");
    await assertFree(groups, name, null);
    if (parent !== null && !groups.some(({ id }) => id === parent))
      throw new Failure("invalid", "There is no such programme to be part of.");
    const position = Math.max(-1, ...groups.map((each) => each.position)) + 1;
    const programme = { id: randomUUID(), name, position, parentId: parent, managerId: null };
    await manager.getRepository(ProgrammeEntity).insert(programme);
    return presentProgramme(programme);
  });
}

/** Where a group stands once it is put before another of its level, or at the end: all positions anew. */
function reordered(groups: readonly ProgrammeEntity[], id: string, before: string | null): string[] {
  const others = groups.filter((each) => each.id !== id).map((each) => each.id);
  const at = before === null ? others.length : others.indexOf(before);
  if (at === -1) throw new Failure("invalid", "The group that it was to be put before is not there any more.");
  return [...others.slice(0, at), id, ...others.slice(at)];
}

/** Renames a group, gives it a manager, makes it part of another one, or puts it elsewhere among its like. */
export async function writeProgramme(
  database: DataSource,
  id: string,
  { name, parent, manager: answers, before }: BodyOf<"PUT /api/programmes/:programme">,
): Promise<PlacedGroup> {
  return inTransaction(database, async (manager) => {
    const programmes = manager.getRepository(ProgrammeEntity);
    const all = await programmes.find({ order: { position: "ASC", name: "ASC" }, lock: { mode: "pessimistic_write" } });
    const programme = orNotFound(all.find((each) => each.id === id) ?? null, "programme of that address");
    await assertFree(all, name, id);
    if (parent !== null && !all.some((each) => each.id === parent))
      throw new Failure("invalid", "There is no such programme to be part of.");
    if (parent !== null && groupsBelow(all, id).has(parent))
      throw new Failure("invalid", `"${name}" cannot be part of what is part of it.`);
    if (answers != null && !(await managersOf(manager)).some((each) => each.id === answers))
      throw new Failure("invalid", "Whoever is to answer for it is no project manager and no controller.");
    await programmes.update(
      { id },
      { name, parentId: parent, ...(answers === undefined ? {} : { managerId: answers }) },
    );
    if (before !== undefined)
      for (const [position, each] of reordered(all, id, before).entries())
        await programmes.update({ id: each }, { position });
    return presentProgramme({ ...programme, name, parentId: parent });
  });
}

/** Removes a group that has nothing in it, and of which nothing was issued. */
export async function removeProgramme(database: DataSource, me: Me, id: string): Promise<Groups> {
  await inTransaction(database, async (manager) => {
    const all = await manager.getRepository(ProgrammeEntity).find({ lock: { mode: "pessimistic_write" } });
    const { name } = orNotFound(
      all.find((each) => each.id === id),
      "group of that address",
    );
    const [{ projects, reports }] = (await manager.query(
      `select (select count(*) from project where programme_id = ?) as projects,
              (select count(*) from issued_report where subject_id = ?) as reports`,
      [id, id],
    )) as [{ projects: string; reports: string }];
    if (Number(projects) > 0 || all.some(({ parentId }) => parentId === id))
      throw new Failure("invalid", `“${name}” is not empty; put its projects and groups elsewhere first.`);
    if (Number(reports) > 0)
      throw new Failure("invalid", `Reports of “${name}” were issued, and stay readable under it; it is not removed.`);
    const given = (await manager.query(
      "select name from account where only_in like concat('%\"', ?, '\"%') order by name",
      [id],
    )) as { name: string }[];
    if (given.length > 0)
      throw new Failure(
        "invalid",
        `Roles are given for “${name}”, to ${given.map((each) => each.name).join(", ")}; give them for another group first.`,
      );
    await manager.query("delete from report_layout where group_id = ?", [id]);
    await manager.getRepository(ProgrammeEntity).delete({ id });
  });
  return listGroups(database, me);
}
