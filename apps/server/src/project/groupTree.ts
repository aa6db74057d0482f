import { withBelow } from "@chronometra/core";
import type { ProgrammeEntity } from "./projectEntity.ts";

/** Ids of a group and of all below it. */
export const groupsBelow = (groups: readonly Pick<ProgrammeEntity, "id" | "parentId">[], root: string): Set<string> =>
  withBelow(
    groups.map(({ id, parentId }) => ({ id, parent: parentId })),
    [root],
  );
