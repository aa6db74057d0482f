import type { Me, Role } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { orNotFound } from "../shared/failure.ts";
import { ProjectEntity } from "./projectEntity.ts";

/** Those who may look into plans. */
export const LOOKERS = ["controller", "projectManager", "approver", "reader"] as const;

/** Whoever acts, as far as rights depend on it. */
type Holder = Pick<Me, "id" | "roles" | "within">;

/** Where a project lies and who manages it: all of it that rights depend on. */
export interface Placed {
  readonly managerId: string;
  readonly programmeId: string | null;
}

/** Whether someone holds a role for the whole house. */
export const holdsEverywhere = (me: Holder, role: Role): boolean =>
  me.roles.includes(role) && me.within?.[role] === undefined;

/**
 * Whether someone holds a role in a group; `null` for what lies in none. One given for groups holds in and below them.
 */
export const holdsIn = (me: Holder, role: Role, group: string | null): boolean =>
  holdsEverywhere(me, role) || (group !== null && me.roles.includes(role) && me.within![role]!.includes(group));

const manages = (me: Holder, { managerId }: Placed): boolean =>
  me.roles.includes("projectManager") && managerId === me.id;

/**
 * Whether someone holds one of some roles for a project; a project manager does for each of their own, wherever it
 * lies.
 */
export const holdsFor = (me: Holder, roles: readonly Role[], project: Placed): boolean =>
  roles.some((role) => holdsIn(me, role, project.programmeId)) ||
  (roles.includes("projectManager") && manages(me, project));

/** Whether someone may change a project: controllers any in their reach, project managers their own. */
export const mayEdit = (me: Holder, project: Placed): boolean =>
  holdsIn(me, "controller", project.programmeId) || manages(me, project);

/** Whether someone may look into a project. */
export const maySee = (me: Holder, project: Placed): boolean => holdsFor(me, LOOKERS, project);

/** Whether someone may look into every project. */
export const seesAll = (me: Holder): boolean => LOOKERS.some((role) => holdsEverywhere(me, role));

/** Whether someone may look into all that lies in a group; `null` for the whole house. */
export const seesGroup = (me: Holder, group: string | null): boolean =>
  seesAll(me) || (group !== null && LOOKERS.some((role) => holdsIn(me, role, group)));

/** A condition on the rows of `project`, with the values that belong there. */
interface SeenSql {
  readonly sql: string;
  readonly values: readonly unknown[];
}

/** What holds of every project. */
export const EVERYTHING: SeenSql = { sql: "true", values: [] };

/** What holds of the rows of `project`, under that name, that someone may look into. */
export function seenSql(me: Holder, name: string): SeenSql {
  if (seesAll(me)) return EVERYTHING;
  const groups = [...new Set(LOOKERS.flatMap((role) => (me.roles.includes(role) ? me.within![role]! : [])))];
  const own = me.roles.includes("projectManager") ? me.id : "";
  return { sql: `(${name}.programme_id in (?) or ${name}.manager_id = ?)`, values: [[...groups, ""], own] };
}

/** What holds of a column that names the group in which something lies, where someone sees what lies there. */
export function seenGroupSql(me: Holder, column: string): SeenSql {
  if (seesAll(me)) return EVERYTHING;
  const groups = LOOKERS.flatMap((role) => (me.roles.includes(role) ? me.within![role]! : []));
  return { sql: `${column} in (?)`, values: [[...groups, ""]] };
}

/** The ids of the projects that someone may look into; `null` where that is all. */
export async function projectsSeen(
  database: DataSource | EntityManager,
  me: Holder,
): Promise<ReadonlySet<string> | null> {
  if (seesAll(me)) return null;
  const { sql, values } = seenSql(me, "p");
  const rows = (await database.query(`select p.id from project p where ${sql}`, [...values])) as { id: string }[];
  return new Set(rows.map(({ id }) => id));
}

/** The project of that id, for someone who may look into it. To others it is not there. */
export async function findSeen(database: DataSource | EntityManager, me: Holder, id: string): Promise<ProjectEntity> {
  const project = await database.getRepository(ProjectEntity).findOneBy({ id });
  return orNotFound(project !== null && maySee(me, project) ? project : null, "project of that address");
}

/** Of some groups those that lie in someone's reach or hold something they see, and what those are part of. */
export function groupsShown<G extends { readonly id: string; readonly parent: string | null }>(
  me: Holder,
  groups: readonly G[],
  holding: Iterable<string | null>,
): G[] {
  if (seesAll(me)) return [...groups];
  const byId = new Map(groups.map((group) => [group.id, group]));
  const shown = new Set<string>();
  const show = (id: string | null): void => {
    for (let at = id; at !== null && byId.has(at) && !shown.has(at); at = byId.get(at)!.parent) shown.add(at);
  };
  for (const { id } of groups) if (seesGroup(me, id)) show(id);
  for (const id of holding) show(id);
  return groups.filter(({ id }) => shown.has(id));
}
