import { withBelow } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { ProgrammeEntity } from "./projectEntity.ts";

/** Ids of a group and of all below it. */
export const groupsBelow = (groups: readonly Pick<ProgrammeEntity, "id" | "parentId">[], root: string): Set<string> =>
  withBelow(
    groups.map(({ id, parentId }) => ({ id, parent: parentId })),
    [root],
  );

/** What all groups are called, by id. */
export async function groupNames(manager: DataSource | EntityManager): Promise<ReadonlyMap<string, string>> {
  const groups = await manager.getRepository(ProgrammeEntity).find();
  return new Map(groups.map(({ id, name }) => [id, name]));
}

/** The group that something is for, as it is told; `null` of what is for the whole house. */
export const presentGroup = (
  id: string | null,
  names: ReadonlyMap<string, string>,
): { id: string; name: string } | null => (id === null ? null : { id, name: names.get(id) ?? "a group that is gone" });
