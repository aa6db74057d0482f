import type { BodyOf, Me, WhatIf } from "@chronometra/contract";
import { fromBundle, remembered, type Plan, type PlanBundle } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { checkOn, type TwoLists } from "../plan/prepare.ts";
import { writeProjects, type Writing } from "../plan/writeProjects.ts";
import { assertNotClosed } from "../project/projectAccess.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { dayOf } from "../shared/clock.ts";
import { Failure } from "../shared/failure.ts";
import { assertApproves, freezeProject, nextBaseline, type Approved } from "./approveService.ts";
import { aloneOnBaseline, applyWhatIf, requestOf } from "./mergeWhatIf.ts";
import { enterReserve } from "./reserves.ts";
import { WhatIfEntity } from "./kept/whatIfEntities.ts";
import { findWhatIf, whatIfChanges } from "./whatIfService.ts";
import type { Telling } from "../tell/post.ts";
import { tellDecided } from "./tellOfApprovals.ts";

type Decision = BodyOf<"POST /api/whatifs/:whatif/decision">;

/** A change request that waits for someone, locked. Throws a Failure where it does not wait, or is their own. */
async function askedOf(manager: EntityManager, me: Me, id: string): Promise<WhatIfEntity> {
  const row = await findWhatIf(manager, id, true);
  if (row.state !== "asked")
    throw new Failure("conflict", "This change request has been decided or withdrawn already.");
  if (row.askedBy === me.id)
    throw new Failure("notAllowed", "You put this change request forward yourself; another approver decides it.");
  return row;
}

interface Deciding {
  readonly at: Date;
  readonly word: string;
  /** Whether the whole plan is approved with the request, knowingly. */
  readonly whole: boolean;
}

/** One plan of one bundle, whoever asks for it. */
const planIn = remembered((bundle: PlanBundle) => fromBundle(bundle));

/** The plan that approving a request alone freezes. Throws a Failure where it cannot be approved by itself. */
async function aloneOn(manager: EntityManager, live: Plan, row: WhatIfEntity): Promise<Plan> {
  const alone = await aloneOnBaseline(manager, live, row);
  if ("fault" in alone) throw new Failure("conflict", `It cannot be approved by itself. ${alone.fault}`);
  return planIn(alone.plan);
}

const calledBy = ({ request, name }: WhatIfEntity): string => `Change request ${request}: ${name}`;

/** What is frozen with a request, and how the ledger tells it. */
async function approvedWith(
  manager: EntityManager,
  me: Me,
  live: Plan,
  row: WhatIfEntity,
  { at, word, whole }: Deciding,
): Promise<Approved> {
  const done = whole ? `Re-baselined with change request ${row.request}: ${row.name}` : calledBy(row);
  return {
    by: me,
    on: dayOf(me, at),
    reason: `${done}. ${row.reason} — ${word}`,
    asked: whole ? undefined : await aloneOn(manager, live, row),
  };
}

/** Applies a request and freezes what comes of it, with the draw that it asks for. */
async function approve(writing: Writing, project: ProjectEntity, row: WhatIfEntity, of: Deciding): Promise<void> {
  const { manager, me } = writing;
  const approved = await approvedWith(manager, me, await writing.plan(project), row, of);
  await applyWhatIf(writing, project, row, calledBy(row));
  row.baseline = await freezeProject(writing, project, approved, of.at);
  if (row.draw === null) return;
  const { kind, amountMinor } = JSON.parse(row.draw) as NonNullable<WhatIf["draw"]>;
  const entry = { kind, amountMinor: -amountMinor, reason: calledBy(row), request: row.request! };
  await enterReserve(manager, me, project.id, entry, of.at);
}

/** The lists that approving stores: the request's changes, then the baseline. */
async function listsOf(database: DataSource, me: Me, live: Plan, id: string, of: Deciding): Promise<TwoLists> {
  const row = await findWhatIf(database, id);
  const approved = await approvedWith(database.manager, me, live, row, of);
  const changes = await whatIfChanges(database, row);
  await checkOn({ id: row.projectId, plan: live }, changes);
  return {
    first: changes,
    second: async (after) => [
      { type: "freeze", baseline: await nextBaseline({ id: row.projectId, plan: after }, approved) },
    ],
  };
}

/**
 * Approves a change request: applied, a new baseline frozen, the draw entered; all or nothing. Alone it freezes the
 * plan behind the baseline in force with these changes, so that what else has moved since stays in sight; or the whole
 * plan as it stands, knowingly. Or sends it back.
 */
export async function decideRequest(
  database: DataSource,
  post: Telling,
  me: Me,
  id: string,
  { decision, reason: word, seen }: Decision,
): Promise<WhatIfEntity> {
  const { projectId } = await findWhatIf(database, id);
  const sendsBack = decision === "sendBack";
  const of: Deciding = { at: new Date(), word, whole: decision === "approveWhole" };
  const work = async (writing: Writing): Promise<WhatIfEntity> => {
    const { manager } = writing;
    const project = writing.project(projectId);
    assertApproves(me, project);
    const row = await askedOf(manager, me, id);
    await assertNotClosed(manager, project);
    if (!sendsBack && seen !== undefined && (seen.live !== project.revision || seen.version !== row.version))
      throw new Failure(
        "conflict",
        "The plan was changed since you looked at this request; look at what it comes to now, and decide then.",
      );
    Object.assign(row, {
      decidedBy: me.id,
      decidedAt: of.at,
      word,
      state: sendsBack ? "sentBack" : "approved",
      whole: of.whole,
    });
    if (!sendsBack) await approve(writing, project, row, of);
    const { askedBy } = row;
    await tellDecided(manager, post, me, project, {
      ...requestOf(row),
      ...{ askedBy, approved: !sendsBack, word, at: of.at },
    });
    return manager.getRepository(WhatIfEntity).save(row);
  };
  return writeProjects(database, me, [projectId], work, (live) =>
    sendsBack ? [] : listsOf(database, me, live, id, of),
  );
}
