import type { Me } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { assertMayEdit, assertNotClosed, findProject } from "../project/projectAccess.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { WhatIfEntity } from "./kept/whatIfEntities.ts";
import { findWhatIf, isWorkable } from "./whatIfService.ts";
import { settleNotices } from "../tell/notices.ts";
import { requestOf } from "./mergeWhatIf.ts";

/** Works on a what-if that is dropped or to be, for someone who may change its project; the live plan plays no part. */
const onEnding = <T>(
  database: DataSource,
  me: Me,
  id: string,
  work: (manager: EntityManager, whatIf: WhatIfEntity) => Promise<T>,
): Promise<T> =>
  inTransaction(database, async (manager) => {
    const whatIf = await findWhatIf(manager, id, true);
    const project = await findProject(manager, whatIf.projectId);
    assertMayEdit(me, project);
    await assertNotClosed(manager, project);
    return work(manager, whatIf);
  });

/** Drops a what-if; a change request that waits is taken back by that. */
export const dropWhatIf = (database: DataSource, me: Me, id: string): Promise<void> =>
  onEnding(database, me, id, async (manager, whatIf) => {
    if (!isWorkable(whatIf) && whatIf.state !== "asked")
      throw new Failure("conflict", `"${whatIf.name}" was ${whatIf.state} already.`);
    await manager
      .getRepository(WhatIfEntity)
      .update({ id }, { state: "dropped", decidedBy: me.id, decidedAt: new Date() });
    await settleNotices(manager, requestOf(whatIf).about);
  });

/** Takes up a what-if again that was dropped: open, as it was left; one that was put forward is put forward anew. */
export const restoreWhatIf = (database: DataSource, me: Me, id: string): Promise<WhatIfEntity> =>
  onEnding(database, me, id, (manager, whatIf) => {
    if (whatIf.state !== "dropped") throw new Failure("conflict", `"${whatIf.name}" is not dropped.`);
    return manager
      .getRepository(WhatIfEntity)
      .save(Object.assign(whatIf, { state: "open", decidedBy: null, decidedAt: null }));
  });
