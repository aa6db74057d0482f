import { randomUUID } from "node:crypto";
import type { FeedTakenIn, LineKind } from "@chronometra/contract";
import { dateWords, dayAfter, formatHours } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { loadPlan } from "../../plan/stored/planStore.ts";
import { ProjectEntity } from "../../project/projectEntity.ts";
import { todayHere } from "../../shared/clock.ts";
import { inTransaction } from "../../shared/database.ts";
import { Failure } from "../../shared/failure.ts";
import { MINUTES_OF_A_DAY } from "../report/sendReport.ts";
import { ANY_FILE, correctionOf, identities, saysTheSame, type Line } from "./identity.ts";
import { matchLine, saidKey, type Candidate, type Match, type Said } from "./matchLines.ts";
import { OutsideLineEntity, OutsideMatchEntity } from "./outsideEntities.ts";

const AT_ONCE = 500;
const DUPLICATE = 1062;

/** Where lines come from: what people read, and what tells one system from another. */
export interface Origin {
  readonly source: string;
  readonly system: string;
  /** The ids of the projects that lines from there may belong to; left out or `null` for all. */
  readonly within?: ReadonlySet<string> | null;
}

/** What of lines cannot be, whatever they belong to; by their place. */
export function faultsOf(kind: LineKind, lines: readonly Line[]): (string | null)[] {
  const last = dayAfter(todayHere());
  return lines.map(({ minutes, date }) => {
    if (kind === "cost") return null;
    if (minutes !== undefined && Math.abs(minutes) > MINUTES_OF_A_DAY) return `${formatHours(minutes)}: a day has 24`;
    return date > last ? `${dateWords(date)} has not come yet; time is booked for days that have passed` : null;
  });
}

type Within = ReadonlySet<string> | null;

async function candidates(manager: EntityManager, within: Within): Promise<Candidate[]> {
  const projects: Candidate[] = [];
  const all = await manager.getRepository(ProjectEntity).find({ order: { code: "ASC" } });
  for (const project of all.filter(({ id }) => within === null || within.has(id)))
    projects.push({ id: project.id, code: project.code, plan: await loadPlan(manager, project) });
  return projects;
}

/** The lines that are here under some identities, held: whoever accepts a correction of one meanwhile is waited for. */
async function linesHere(manager: EntityManager, prints: readonly string[]): Promise<Map<string, OutsideLineEntity>> {
  const here = new Map<string, OutsideLineEntity>();
  for (let i = 0; i < prints.length; i += AT_ONCE)
    for (const row of await manager
      .getRepository(OutsideLineEntity)
      .find({ where: { fingerprint: In(prints.slice(i, i + AT_ONCE)) }, lock: { mode: "pessimistic_write" } }))
      here.set(row.fingerprint, row);
  return here;
}

type Matcher = (line: Line) => Pick<OutsideLineEntity, "state" | "projectId" | "activityId" | "personId" | "why">;

/** Matches lines by themselves, or as lines that said the same were matched by hand. */
async function matcher(manager: EntityManager, kind: LineKind, within: Within): Promise<Matcher> {
  const projects = await candidates(manager, within);
  const remembered = new Map(
    (await manager.getRepository(OutsideMatchEntity).findBy({ kind })).map((row) => [row.said, row]),
  );
  return (line) => {
    const said: Said = { project: line.project, activity: line.activity ?? "", person: line.person ?? "" };
    const before = remembered.get(saidKey(kind, said));
    const match: Match =
      before === undefined || (within !== null && !within.has(before.projectId))
        ? matchLine(kind, said, projects)
        : { project: before.projectId, activity: before.activityId, person: before.personId };
    return "why" in match
      ? { state: "unmatched", projectId: match.project, activityId: null, personId: null, why: match.why.slice(0, 500) }
      : { state: "matched", projectId: match.project, activityId: match.activity, personId: match.person, why: null };
  };
}

type Became = FeedTakenIn["lines"][number];

/** Lines on their way in: those that are new, and corrections of those that are here. */
class Intake {
  readonly added: OutsideLineEntity[] = [];
  readonly gone: string[] = [];
  private match: Matcher | null = null;

  constructor(
    private readonly manager: EntityManager,
    private readonly kind: LineKind,
    private readonly source: string,
    private readonly within: Within,
    private readonly here: ReadonlyMap<string, OutsideLineEntity>,
  ) {}

  /** What becomes of a line of one of two identities, its own and that of lines from before. */
  async take(line: Line, own: string, earlier: string): Promise<Became["became"]> {
    const base = this.here.get(own) ?? this.here.get(earlier);
    if (base === undefined) {
      this.match ??= await matcher(this.manager, this.kind, this.within);
      const row = this.rowOf(line, own, this.match(line));
      this.added.push(row);
      return row.state as "matched" | "unmatched";
    }
    const waiting = this.here.get(correctionOf(base.fingerprint));
    if (saysTheSame(line, waiting ?? base)) return "known";
    if (waiting !== undefined) this.gone.push(waiting.id);
    // Its system says again what it said at first: nothing is to be corrected any more.
    if (saysTheSame(line, base)) return "known";
    const { projectId, activityId, personId } = base;
    this.added.push({
      ...this.rowOf(line, correctionOf(base.fingerprint), {
        state: "correction",
        projectId,
        activityId,
        personId,
        why: null,
      }),
      corrects: base.id,
    });
    return "correction";
  }

  private rowOf(line: Line, fingerprint: string, match: ReturnType<Matcher>): OutsideLineEntity {
    const { kind, source } = this;
    return {
      id: randomUUID(),
      kind,
      source,
      fingerprint,
      ...match,
      corrects: null,
      saidProject: line.project,
      saidActivity: line.activity ?? "",
      saidPerson: line.person ?? "",
      date: line.date,
      amount: line.amount ?? null,
      minutes: line.minutes ?? null,
      category: line.category ?? "",
      reference: line.reference ?? "",
      note: line.note ?? "",
      cameAt: new Date(),
      decidedBy: null,
    };
  }
}

const count = (lines: readonly Became[], became: Became["became"]): number =>
  lines.filter((line) => line.became === became).length;

/**
 * Takes lines in, each once: matched by itself or as before, or waiting in sight; one that is here and says something
 * else now waits as its correction.
 */
export const takeIn = (
  database: DataSource,
  kind: LineKind,
  { source, system, within = null }: Origin,
  lines: readonly Line[],
): Promise<FeedTakenIn> =>
  inTransaction(database, async (manager) => {
    const [own, earlier] = [
      identities(kind, system, lines),
      identities(kind, system.startsWith(ANY_FILE) ? ANY_FILE : system, lines),
    ];
    const prints = [...new Set([...own, ...earlier])];
    const here = await linesHere(manager, [...prints, ...prints.map(correctionOf)]);
    const intake = new Intake(manager, kind, source, within, here);
    const told: Became[] = [];
    for (const [i, line] of lines.entries())
      told.push({ reference: line.reference ?? null, became: await intake.take(line, own[i]!, earlier[i]!) });
    const repository = manager.getRepository(OutsideLineEntity);
    try {
      if (intake.gone.length > 0) await repository.delete({ id: In(intake.gone) });
      for (let i = 0; i < intake.added.length; i += AT_ONCE)
        await repository.insert(intake.added.slice(i, i + AT_ONCE));
    } catch (error) {
      // The same lines came twice at one instant: the other call has them.
      if ((error as { errno?: number }).errno === DUPLICATE) throw new Failure("busy");
      throw error;
    }
    const [matched, unmatched, corrections] = [
      count(told, "matched"),
      count(told, "unmatched"),
      count(told, "correction"),
    ];
    return { added: matched + unmatched, matched, unmatched, corrections, known: count(told, "known"), lines: told };
  });
