import type { PlanView } from "@chronometra/contract";
import {
  ADDED_DAYS,
  applyChanges,
  arrange,
  brokenChains,
  checkWholePlan,
  compareAlternates,
  computePlan,
  copyBranches,
  decidingChain,
  effectBetween,
  explainActivity,
  groundOf,
  lengthened,
  liveAlternate,
  makeAlternates,
  parkRows,
  pasteBranches,
  PlanProblems,
  problemInWords,
  linkReader,
  readLinks,
  readWork,
  workReader,
  runPathTest,
  schedulePlan,
  toBundle,
  wakeRows,
  type Alternate,
  type Arrangement,
  type Branches,
  type Change,
  type Effect,
  type Explanation,
  type Plan,
  type PlanBundle,
  type Problem,
  type Reckoned,
  type Schedule,
} from "@chronometra/core";
import { dragged, type Gesture, type Meant } from "./dragged.ts";
import { layOutSheet } from "./layOutSheet.ts";
import { planValue } from "./planValue.ts";
import type { Sheet } from "./sheet.ts";
import { patchOf, type SheetPatch } from "./sheetPatch.ts";
import { activityWork, type ActivityWork } from "./activityWork.ts";

/** What came of trying changes: the plan as it would be and what moved, or why it cannot be. */
export type Tried =
  | {
      readonly sheet: SheetPatch;
      readonly effect: Effect;
      /** What leads back; `null` where nothing does. */ readonly inverse: readonly Change[] | null;
    }
  | { readonly problems: readonly Problem[] };

/** A list of changes that the server has not stored yet, with what it is called. */
export interface PendingList {
  readonly list: string;
  readonly changes: readonly Change[];
}

/** What is typed or pasted into many cells at once: changes, and texts that the plan itself has to read once those are made. */
export interface BlockTyped {
  readonly changes: readonly Change[];
  readonly asked: readonly { readonly activity: string; readonly text: string; readonly what: "links" | "people" }[];
}

/** Where each activity that moves would lie. */
export type Ghosts = ReadonlyMap<string, { readonly start: number; readonly finish: number }>;

/** What the critical path test came to, and where what it moves would lie. */
export interface DrawnTest {
  readonly activity: string;
  readonly addedDays: number;
  readonly movedDays: number;
  readonly ghosts: Ghosts;
}

/** What changes would move, drawn before they are made. */
export type Preview = { readonly effect: Effect; readonly ghosts: Ghosts } | { readonly problems: readonly Problem[] };

/** What typing comes to: changes, none where all stays, or what is wrong with it. */
export type Typed = { readonly changes: readonly Change[] } | { readonly fault: string };

/** What parking comes to: chains that would break, as names in walking order, and the changes with and without carrying them across. */
export interface Parking {
  readonly chains: readonly (readonly string[])[];
  readonly only: readonly Change[];
  readonly across: readonly Change[];
}

/** A plan with what was computed from it. */
interface Worked extends Reckoned {
  readonly value: Plan;
}

const newKey = (letter: string): string => `${letter}-${crypto.randomUUID().slice(0, 13)}`;

/**
 * A plan in the browser: what the server has confirmed, and what was changed here since and is on its way.
 * Computes with the same core as the server, in a worker.
 */
export class PlanEngine {
  private confirmed!: Plan;
  private pending: PendingList[] = [];
  private current!: Worked;
  /** What the page has. */
  private shown: Sheet | null = null;
  private baseline: number | undefined;

  /** Takes a plan as the server gave it, and what it has not stored yet of what was done here, oldest first. */
  open(view: PlanView, pending: readonly PendingList[] = []): SheetPatch {
    this.confirmed = planValue(view);
    this.pending = [...pending];
    this.shown = null;
    return this.rebuild();
  }

  /** Compares with another baseline. */
  compareWith(baseline: number): SheetPatch {
    this.baseline = baseline;
    this.current = this.reckon(this.current.value);
    return this.layOut();
  }

  /** Applies changes at once, ahead of the server. Nothing is kept of changes that cannot be. */
  change(list: string, changes: readonly Change[]): Tried {
    const before = this.current;
    try {
      const { worked, inverse } = this.tryOut(changes);
      this.pending.push({ list, changes });
      this.current = worked;
      return { sheet: this.layOut(), effect: effectBetween(before, worked), inverse };
    } catch (error) {
      return this.refused(error, changes);
    }
  }

  /** What changes would move; nothing is kept. */
  effect(changes: readonly Change[]): Effect {
    return effectBetween(this.current, this.tryOut(changes).worked);
  }

  /** As `effect`, with where everything that moves would lie. */
  preview(changes: readonly Change[]): Preview {
    try {
      const tried = this.tryOut(changes).worked;
      return { effect: effectBetween(this.current, tried), ghosts: this.moved(tried.plan, tried.computed.schedule) };
    } catch (error) {
      return this.refused(error, changes);
    }
  }

  /** The critical path test, run for real: what moves and to where; `null` where there is nothing to test. */
  pathTest(): DrawnTest | null {
    const { plan, computed } = this.current;
    const ground = groundOf(plan, computed.schedule, computed.baseline?.content ?? null);
    const test = runPathTest(ground);
    if (test === null) return null;
    const longer = lengthened(ground, test);
    return {
      activity: test.tested.activity.name,
      addedDays: ADDED_DAYS,
      movedDays: test.movedMinutes / test.tested.calendar.dayMinutes,
      ghosts: this.moved(longer, schedulePlan(longer)),
    };
  }

  /** What lies elsewhere in another schedule of the plan, and where. */
  private moved(plan: PlanBundle, { rows }: Schedule): Ghosts {
    const was = new Map(this.current.plan.activities.map(({ id }, i) => [id, this.current.computed.schedule.rows[i]]));
    return new Map(
      plan.activities.flatMap(({ id }, i) => {
        const [row, before] = [rows[i], was.get(id)];
        return row != null && (row.start !== before?.start || row.finish !== before?.finish)
          ? [[id, { start: row.start, finish: row.finish }] as const]
          : [];
      }),
    );
  }

  /** What a gesture in the time chart comes to. */
  dragged(gesture: Gesture): Meant {
    return dragged(this.current.value, this.current.computed, gesture);
  }

  /** The changes that an arrangement of the tree comes to. */
  arrange(arrangement: Arrangement): readonly Change[] {
    return arrange(this.current.value, arrangement);
  }

  /** The changes that links typed for an activity come to, or what is wrong with them. */
  readLinks(activity: string, text: string): Typed {
    return readLinks(this.current.value, activity, text, () => newKey("l"));
  }

  /** The changes that people typed for an activity come to, or what is wrong with them. */
  readWork(activity: string, text: string): Typed {
    return readWork(this.current.value, activity, text, () => newKey("w"));
  }

  /** Why an activity lies where it does; `null` for what is placed by nothing of its own. */
  explain(activity: string): Explanation | null {
    return explainActivity(this.current.plan, activity);
  }

  /** The ids of all that decides where an activity lies, itself among them. */
  chainOf(activity: string): readonly string[] {
    return decidingChain(this.current.plan, activity);
  }

  /** Who and what works on an activity; `null` where it is gone. */
  work(activity: string): ActivityWork | null {
    return activityWork(this.current.value, activity, this.current.computed);
  }

  /** What parking rows would break, by name, and the changes that park them without and with their logic carried across. */
  parking(ids: readonly string[]): Parking {
    const { value } = this.current;
    const nameOf = (id: string): string => value.activities.get(id)?.name ?? id;
    const chains = brokenChains(value, ids).map(({ link, through }) => [link.from, ...through, link.to].map(nameOf));
    const park = (carried: boolean): Change[] => parkRows(value, ids, { carried, newKey: () => newKey("l") });
    return { chains, only: park(false), across: park(true) };
  }

  /** What removing rows would cut, and the changes that remove them without and with their logic carried across. */
  removal(ids: readonly string[]): Parking & { readonly links: number } {
    const { value } = this.current;
    const only = arrange(value, { verb: "remove", ids });
    const gone = new Set(
      only.flatMap((change) => (change.type === "removeRow" && change.table === "activities" ? [change.key] : [])),
    );
    const links = [...value.links.values()].filter(({ from, to }) => gone.has(from) !== gone.has(to)).length;
    const broken = brokenChains(value, [...gone]);
    const nameOf = (id: string): string => value.activities.get(id)?.name ?? id;
    const carried = broken.map(({ link }): Change => ({ type: "addRow", table: "links", key: newKey("l"), row: link }));
    return {
      chains: broken.map(({ link, through }) => [link.from, ...through, link.to].map(nameOf)),
      only,
      across: [...only, ...carried],
      links,
    };
  }

  /** The changes that wake parked rows; one that lies parked below a parked branch wakes the branch. */
  wake(ids: readonly string[]): readonly Change[] {
    const { activities } = this.current.value;
    const parkedAt = (id: string): string => {
      const row = activities.get(id);
      return row === undefined || row.parked === true || row.parent === undefined ? id : parkedAt(row.parent);
    };
    return wakeRows(this.current.value, [...new Set(ids.map(parkedAt))], () => newKey("l"));
  }

  /** What the plan would come to with each of a group's ways live. */
  alternates(group: string): readonly Alternate[] {
    return compareAlternates(this.current.value, group);
  }

  /** The changes that make rows ways of one step, or another way the live one. */
  ways(
    make:
      | { readonly members: readonly string[]; readonly name: string }
      | { readonly group: string; readonly live: string },
  ): readonly Change[] {
    const { value } = this.current;
    const linkKey = (): string => newKey("l");
    return "group" in make
      ? liveAlternate(value, make.group, make.live, linkKey)
      : makeAlternates(value, newKey("a"), make.name, make.members, linkKey);
  }

  /** Activities with all that hangs on them, for another place or plan. */
  copy(ids: readonly string[]): Branches {
    return copyBranches(this.current.value, ids);
  }

  /** The changes that paste branches after a row. */
  paste(branches: Branches, after: string | null, keepIds: boolean): readonly Change[] {
    return pasteBranches(this.current.value, branches, { after, keepIds, newKey: () => newKey("n") });
  }

  /** The server has stored a list on its way, after those of others. */
  confirm(list: string, stored: readonly Change[]): SheetPatch {
    this.pending = this.pending.filter((each) => each.list !== list);
    return this.advance(stored);
  }

  /** The server has refused a list, or it was given up: the plan is shown without it. */
  reject(list: string): SheetPatch {
    return this.confirm(list, []);
  }

  /** The server has stored changes that are not among those on their way. */
  advance(stored: readonly Change[]): SheetPatch {
    this.confirmed = applyChanges(this.confirmed, stored).plan;
    return this.rebuild();
  }

  /** What the server has, with all on its way to it; what does not fit there any more is left to the server to judge. */
  private rebuild(): SheetPatch {
    this.current = this.reckon(this.confirmed);
    for (const { changes } of this.pending) {
      try {
        this.current = this.tryOut(changes).worked;
      } catch (error) {
        if (!(error instanceof PlanProblems)) throw error;
      }
    }
    return this.layOut();
  }

  /** Reads a block of cells: the links and people typed in it among rows that it adds itself. */
  readBlock({
    changes,
    asked,
  }: BlockTyped): { readonly changes: readonly Change[] } | { readonly faults: readonly string[] } {
    if (asked.length === 0) return { changes };
    try {
      const { plan } = applyChanges(this.current.value, changes);
      const readers = { links: linkReader(plan, () => newKey("l")), people: workReader(plan, () => newKey("w")) };
      const read = asked.map(({ activity, text, what }) => ({
        name: plan.activities.get(activity)?.name ?? activity,
        typed: readers[what](activity, text),
      }));
      const faults = read.flatMap(({ name, typed }) => ("fault" in typed ? [`“${name}”: ${typed.fault}`] : []));
      return faults.length > 0
        ? { faults }
        : { changes: [...changes, ...read.flatMap(({ typed }) => ("changes" in typed ? typed.changes : []))] };
    } catch (error) {
      return { faults: this.refused(error, changes).problems.map(({ message }) => message) };
    }
  }

  /** Why changes cannot be, activities by their names. */
  private refused(error: unknown, changes: readonly Change[]): { readonly problems: readonly Problem[] } {
    if (!(error instanceof PlanProblems)) throw error;
    return { problems: error.problems.map((problem) => problemInWords(problem, this.current.value, changes)) };
  }

  private reckon(value: Plan): Worked {
    const plan = toBundle(value);
    const baseline =
      this.baseline !== undefined && value.baselines.has(String(this.baseline)) ? { baseline: this.baseline } : {};
    return { value, plan, computed: computePlan(plan, baseline) };
  }

  private tryOut(changes: readonly Change[]): { readonly worked: Worked; readonly inverse: readonly Change[] | null } {
    const { plan, inverse } = applyChanges(this.current.value, changes);
    const problems = checkWholePlan(plan);
    if (problems.length > 0) throw new PlanProblems(problems);
    return { worked: this.reckon(plan), inverse };
  }

  private layOut(): SheetPatch {
    const { value, plan, computed } = this.current;
    const sheet = layOutSheet(value, plan, computed);
    const patch = patchOf(this.shown, sheet);
    this.shown = sheet;
    return patch;
  }
}
