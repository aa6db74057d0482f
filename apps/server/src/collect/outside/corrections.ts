import { randomUUID } from "node:crypto";
import type { Me } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { lockedTo } from "../../cycle/locks.ts";
import { storeChanges } from "../../plan/changeService.ts";
import { writeProjects, type Writing } from "../../plan/writeProjects.ts";
import { Failure } from "../../shared/failure.ts";
import { ReportEntity } from "../reportEntity.ts";
import { assertBookable, assertDaysHold, costChange } from "./lines.ts";
import { OutsideLineEntity } from "./outsideEntities.ts";

/** A line as it was told first, and as its system tells it now. */
interface Corrected {
  readonly base: OutsideLineEntity;
  readonly now: OutsideLineEntity;
}

async function correctedLines(manager: EntityManager, ids: readonly string[], lock: boolean): Promise<Corrected[]> {
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
      `The line ${other.reference || other.saidActivity} of ${other.date} is no correction that waits; load the page again.`,
    );
  const bases = new Map(
    (await repository.find({ where: { id: In(rows.map(({ corrects }) => corrects!)) }, ...locked })).map((row) => [
      row.id,
      row,
    ]),
  );
  return rows.map((now) => ({ base: bases.get(now.corrects!)!, now }));
}

/** Costs that make up for what was posted: the difference, or in another category the old taken back and the new. */
function costDifference(
  plan: Parameters<typeof costChange>[0],
  { base, now }: Corrected,
  closedTo: string | null,
): Change[] {
  if (base.category === now.category)
    return [costChange(plan, { ...now, activityId: base.activityId }, now.amount! - base.amount!, closedTo)];
  return [
    costChange(plan, { ...base, id: `${now.id}-back` }, -base.amount!, closedTo),
    costChange(plan, { ...now, activityId: base.activityId }, now.amount!, closedTo),
  ];
}

/** Time that was sent on: a report that still waits says the new hours, one that was accepted is adjusted by another. */
async function correctTime(writing: Writing, { base, now }: Corrected): Promise<void> {
  const reports = writing.manager.getRepository(ReportEntity);
  const sent = await reports.findOneBy({ id: base.id });
  const project = writing.project(base.projectId!);
  if (sent?.state === "submitted") return void (await reports.update({ id: sent.id }, { minutes: now.minutes! }));
  const minutes = sent?.state === "returned" ? now.minutes! : now.minutes! - base.minutes!;
  await assertBookable(writing.manager, project, base, minutes);
  const note = [`correction of ${base.reference || base.source}`, now.note]
    .filter((words) => words !== "")
    .join(", ")
    .slice(0, 1000);
  await reports.insert({
    id: randomUUID(),
    projectId: project.id,
    activityId: base.activityId!,
    personId: base.personId!,
    date: base.date,
    leaveUntil: null,
    minutes,
    percent: null,
    remainingMinutes: null,
    note,
    state: "submitted",
    sentAt: new Date(),
    decidedBy: null,
    word: null,
  });
}

/** Accepts corrections, all or none: a line that was not posted says what its system says now, one that was is adjusted by the difference. */
export async function acceptCorrections(
  database: DataSource,
  me: Me,
  ids: readonly string[],
): Promise<{ costs: number; reports: number }> {
  const posted = ({ base }: Corrected): boolean => base.state === "posted";
  const looked = await correctedLines(database.manager, ids, false);
  const projects = [...new Set(looked.flatMap(({ base }) => (base.projectId === null ? [] : [base.projectId])))].sort();
  return writeProjects(database, me, projects, async (writing) => {
    const { manager } = writing;
    const all = await correctedLines(manager, ids, true);
    for (const id of projects) {
      const project = await writing.editable(id);
      const own = all.filter((each) => each.base.projectId === id && posted(each));
      const [plan, closedTo] = [await writing.plan(project), await lockedTo(manager, id)];
      const changes = own
        .filter(({ base }) => base.kind === "cost")
        .flatMap((each) => costDifference(plan, each, closedTo));
      if (changes.length > 0)
        await storeChanges(writing, project, {
          changes,
          label: `Corrected costs of ${own[0]!.now.source}`.slice(0, 200),
        });
      for (const each of own) if (each.base.kind === "time") await correctTime(writing, each);
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
    const count = (kind: "cost" | "time"): number =>
      all.filter((each) => posted(each) && each.base.kind === kind).length;
    return { costs: count("cost"), reports: count("time") };
  });
}
