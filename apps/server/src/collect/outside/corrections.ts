import { dateWords } from "@chronometra/core";
import { randomUUID } from "node:crypto";
import type { Me } from "@chronometra/contract";
import type { Change, Plan } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { lockedTo } from "../../project/locks.ts";
import { storeChanges } from "../../plan/changeService.ts";
import { writeProjects, type Writing } from "../../plan/writeProjects.ts";
import { Failure } from "../../shared/failure.ts";
import { ReportEntity } from "../kept/reportEntity.ts";
import { costChange, minorIn } from "./costs.ts";
import { assertBookable, assertDaysHold } from "./lines.ts";
import { OutsideLineEntity } from "./outsideEntities.ts";

/** A line as it was told first, and as its system tells it now. */
export interface Corrected {
  readonly base: OutsideLineEntity;
  readonly now: OutsideLineEntity;
}

/** Corrections that wait, of those ids, each with what it corrects; locked where asked. */
export async function correctedLines(
  manager: EntityManager,
  ids: readonly string[],
  lock: boolean,
): Promise<Corrected[]> {
  const repository = manager.getRepository(OutsideLineEntity);
  const locked = lock ? { lock: { mode: "pessimistic_write" as const } } : {};
  const rows = await repository.find({
    where: { id: In([...new Set(ids)]) },
    order: { date: "ASC", reference: "ASC" },
    ...locked,
  });
  if (rows.length < new Set(ids).size)
    throw new Failure("notFound", "A correction is not there any more; load the page again.");
  const other = rows.find(({ state }) => state !== "correction");
  if (other !== undefined)
    throw new Failure(
      "conflict",
      `The line ${other.reference || other.saidActivity} of ${dateWords(other.date)} is no correction that waits; load the page again.`,
    );
  const bases = new Map(
    (await repository.find({ where: { id: In(rows.map(({ corrects }) => corrects!)) }, ...locked })).map((row) => [
      row.id,
      row,
    ]),
  );
  return rows.map((now) => ({ base: bases.get(now.corrects!)!, now }));
}

/**
 * Costs that make up for what was posted, to the last minor unit: the difference, or in another category the old taken
 * back and the new.
 */
function costDifference(plan: Plan, { base, now }: Corrected, closedTo: string | null): Change[] {
  const [was, is] = [minorIn(plan, base.amount!), minorIn(plan, now.amount!)];
  const line = { ...now, activityId: base.activityId };
  if (base.category !== now.category)
    return [costChange({ ...base, id: `${now.id}-back` }, -was, closedTo), costChange(line, is, closedTo)];
  return was === is ? [] : [costChange(line, is - was, closedTo)];
}

/** The changes that make up for costs of a project that were posted. */
export const costCorrections = (plan: Plan, corrected: readonly Corrected[], closedTo: string | null): Change[] =>
  corrected
    .filter(({ base }) => base.kind === "cost" && base.state === "posted")
    .flatMap((each) => costDifference(plan, each, closedTo));

/**
 * Time that was sent on: a report that is not accepted says the new hours, and waits; one that was accepted is adjusted
 * by another.
 * @returns whether a report was written
 */
async function correctTime(writing: Writing, { base, now }: Corrected): Promise<boolean> {
  const { manager } = writing;
  const reports = manager.getRepository(ReportEntity);
  const sent = await reports.findOneBy({ id: base.id });
  const project = writing.project(base.projectId!);
  const stands = sent === null || sent.state === "posted";
  const minutes = stands ? now.minutes! - base.minutes! : now.minutes!;
  if (minutes === 0) return false;
  await assertBookable(manager, project, base, minutes);
  const waits = { minutes, state: "submitted" as const, sentAt: new Date(), decidedBy: null, word: null };
  if (!stands) {
    await reports.update({ id: sent.id }, waits);
    return true;
  }
  const note = [`correction of ${base.reference || base.source}`, now.note]
    .filter((words) => words !== "")
    .join(", ")
    .slice(0, 1000);
  const whose = { projectId: project.id, activityId: base.activityId!, personId: base.personId!, date: base.date };
  await reports.insert({
    ...whose,
    ...waits,
    id: randomUUID(),
    leaveUntil: null,
    percent: null,
    remainingMinutes: null,
    stage: null,
    note,
  });
  return true;
}

/**
 * Accepts corrections, all or none: a line that was not posted says what its system says now, one that was is adjusted
 * by the difference.
 */
export async function acceptCorrections(
  database: DataSource,
  me: Me,
  ids: readonly string[],
): Promise<{ costs: number; reports: number }> {
  const posted = ({ base }: Corrected): boolean => base.state === "posted";
  const looked = await correctedLines(database.manager, ids, false);
  const projects = [...new Set(looked.flatMap(({ base }) => (base.projectId === null ? [] : [base.projectId])))].sort();
  const postedIn = (lines: readonly Corrected[], id: string): Corrected[] =>
    lines.filter((each) => each.base.projectId === id && posted(each));
  const work = async (writing: Writing): Promise<{ costs: number; reports: number }> => {
    const { manager } = writing;
    const all = await correctedLines(manager, ids, true);
    let reports = 0;
    for (const id of projects) {
      const project = await writing.editable(id);
      const own = postedIn(all, id);
      const changes = costCorrections(await writing.plan(project), own, await lockedTo(manager, id));
      if (changes.length > 0)
        await storeChanges(writing, project, {
          changes,
          through: "system",
          label: `Corrected costs of ${own[0]!.now.source}`.slice(0, 200),
        });
      for (const each of own) if (each.base.kind === "time" && (await correctTime(writing, each))) reports++;
    }
    await assertDaysHold(
      manager,
      all.filter(posted).map(({ base }) => base),
    );
    const repository = manager.getRepository(OutsideLineEntity);
    for (const { base, now } of all) {
      await repository.delete({ id: now.id });
      await repository.update(
        { id: base.id },
        { amount: now.amount, minutes: now.minutes, category: now.category, note: now.note },
      );
    }
    return { costs: all.filter((each) => posted(each) && each.base.kind === "cost").length, reports };
  };
  return writeProjects(database, me, projects, work, async (plan, { id }) =>
    costCorrections(plan, postedIn(looked, id), await lockedTo(database.manager, id)),
  );
}
