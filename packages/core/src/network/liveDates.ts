import type { Activity, Assignment, PlanBundle } from "../plan/schema.ts";
import { planTree } from "../plan/planTree.ts";
import type { CalendarSet } from "../plan/compileCalendars.ts";
import { buildNetwork } from "./laid/buildNetwork.ts";
import { rewriteNode } from "./laid/nodeColumns.ts";
import { calendarFloors, forwardPass, placeNode, type EarlyDates } from "./forwardPass.ts";
import type { Network } from "./laid/network.ts";

/**
 * Early dates of a plan that change with single activities: what an activity's own fields and people decide is placed anew, and
 * what comes after it as far as it moves. Links, calendars and the rows themselves stay as they were built.
 */
export class LiveDates {
  private readonly network: Network;
  private readonly early: EarlyDates;
  private readonly nodeOf = new Map<string, number>();
  private readonly floors: ReturnType<typeof calendarFloors>;
  private readonly waiting: Uint8Array;

  /**
   * @param calendars the plan's, compiled
   * @throws {PlanProblems} for a loop of links
   * @throws {NodeOutsideHorizon} where a date runs outside 1990 to 2099
   */
  constructor(
    private readonly plan: PlanBundle,
    private readonly calendars: CalendarSet,
  ) {
    this.network = buildNetwork(plan, planTree(plan.activities), calendars);
    this.early = forwardPass(this.network);
    this.floors = calendarFloors(this.network);
    this.waiting = new Uint8Array(this.network.count);
    for (let node = 0; node < this.network.count; node++)
      this.nodeOf.set(plan.activities[this.network.activityOf[node]!]!.id, node);
  }

  /** Where an activity finishes, or the project where none is named; `null` where there is no date. */
  finishOf(activity: string | null): number | null {
    if (activity !== null) {
      const node = this.nodeOf.get(activity);
      return node === undefined ? null : this.early.finishAt[node]!;
    }
    let latest = -1;
    for (let node = 0; node < this.network.count; node++)
      if (this.early.finishAt[node]! > latest) latest = this.early.finishAt[node]!;
    return latest < 0 ? null : latest;
  }

  /**
   * Writes an activity anew.
   * @param assignments all of its people
   * @returns whether that was possible: not where it comes into the passes, leaves them, or has another kind or calendar
   * @throws {OutsideHorizon} where a date runs outside 1990 to 2099; the dates are of no use then
   */
  rewrite(activity: Activity, assignments: readonly Assignment[]): boolean {
    const node = this.nodeOf.get(activity.id);
    if (node === undefined || !rewriteNode(this.network, node, activity, assignments, this.plan, this.calendars))
      return false;
    this.waiting[node] = 1;
    for (let at = node; at < this.network.count; at++) if (this.waiting[at] === 1) this.place(at);
    return true;
  }

  /** Places a node again, and has its successors wait where it moved. */
  private place(node: number): void {
    const { early, network, waiting } = this;
    waiting[node] = 0;
    const [start, finish, startIndex, finishIndex] = [
      early.startAt[node]!,
      early.finishAt[node]!,
      early.startIndex[node]!,
      early.finishIndex[node]!,
    ];
    placeNode(network, early, node, this.floors);
    if (
      early.startAt[node] === start &&
      early.finishAt[node] === finish &&
      early.startIndex[node] === startIndex &&
      early.finishIndex[node] === finishIndex
    )
      return;
    for (let link = network.outStart[node]!; link < network.outStart[node + 1]!; link++)
      waiting[network.outLinks.other[link]!] = 1;
  }
}
