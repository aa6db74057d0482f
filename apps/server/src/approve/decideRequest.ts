import type { BodyOf, Me, WhatIf } from "@chronometra/contract";
import { fromBundle } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { writeProjects, type Writing } from "../plan/writeProjects.ts";
import { assertNotClosed } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { dayOf } from "../shared/clock.ts";
import { Failure } from "../shared/failure.ts";
import { freezeProject } from "./approveService.ts";
import { aloneOnBaseline, applyWhatIf } from "./mergeWhatIf.ts";
import { enterReserve } from "./reserves.ts";
import { WhatIfEntity } from "./whatIfEntities.ts";
import { findWhatIf, whatIfChanges } from "./whatIfService.ts";

type Decision = BodyOf<"POST /api/whatifs/:whatif/decision">;

/** A change request that waits to be decided by someone, locked. Throws a Failure where it does not, or is their own. */
async function askedOf(manager: EntityManager, me: Me, id: string): Promise<WhatIfEntity> {
  const row = await findWhatIf(manager, id, true);
  if (row.state !== "asked")
    throw new Failure("conflict", "This change request has been decided or withdrawn already.");
  if (row.askedBy === me.id)
    throw new Failure("notAllowed", "You put this change request forward yourself; another approver decides it.");
  return row;
}

/** Applies a request and freezes what comes of it, with the draw that it asks for. */
async function approve(writing: Writing, project: ProjectEntity, row: WhatIfEntity, at: Date): Promise<void> {
  const { manager, me } = writing;
  const called = `Change request ${row.request}: ${row.name}`;
  const alone = row.whole ? null : await aloneOnBaseline(manager, await writing.plan(project), row);
  if (alone !== null && "fault" in alone)
    throw new Failure("conflict", `It cannot be approved by itself. ${alone.fault}`);
  await applyWhatIf(writing, project, row, called);
  const done = row.whole ? `Re-baselined with change request ${row.request}: ${row.name}` : called;
  const words = `${done}. ${row.reason} — ${row.word}`;
  const frozen = alone === null ? undefined : fromBundle(alone.plan);
  row.baseline = await freezeProject(writing, project, words, dayOf(me, at), at, frozen);
  if (row.draw === null) return;
  const { kind, amountMinor } = JSON.parse(row.draw) as NonNullable<WhatIf["draw"]>;
  const entry = { kind, amountMinor: -amountMinor, reason: called, request: row.request! };
  await enterReserve(manager, me, project.id, entry, at);
}

/**
 * Approves a change request: applied, a new baseline frozen, the draw entered; all or nothing. Alone it freezes the
 * plan behind the baseline in force with these changes, so that what else has moved since stays in sight; or the whole
 * plan as it stands, knowingly. Or sends it back.
 */
export async function decideRequest(
  database: DataSource,
  me: Me,
  id: string,
  { decision, reason: word, seen }: Decision,
): Promise<WhatIfEntity> {
  const at = new Date();
  const { projectId } = await findWhatIf(database, id);
  const sendsBack = decision === "sendBack";
  return writeProjects(
    database,
    me,
    [projectId],
    async (writing) => {
      const { manager } = writing;
      const project = writing.project(projectId);
      const row = await askedOf(manager, me, id);
      await assertNotClosed(manager, project);
      if (!sendsBack && seen !== undefined && (seen.live !== project.revision || seen.version !== row.version))
        throw new Failure(
          "conflict",
          "The plan was changed since you looked at this request; look at what it comes to now, and decide then.",
        );
      Object.assign(row, {
        decidedBy: me.id,
        decidedAt: at,
        word,
        state: sendsBack ? "sentBack" : "approved",
        whole: decision === "approveWhole",
      });
      if (!sendsBack) await approve(writing, project, row, at);
      return manager.getRepository(WhatIfEntity).save(row);
    },
    async () => (sendsBack ? [] : whatIfChanges(database, await findWhatIf(database, id))),
  );
}
