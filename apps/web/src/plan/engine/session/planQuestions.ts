import type { Alternate, Branches, Change, Explanation } from "@chronometra/core";
import type { ActivityWork } from "../activityWork.ts";
import type { Gesture, Meant } from "../dragged.ts";
import type { Engine, Removal } from "../engine.ts";
import type { DrawnTest, Parking, Preview, Typed } from "../planEngine.ts";

/** What is asked of a plan as it is shown: nothing is changed by it. */
export abstract class PlanQuestions {
  constructor(protected readonly engine: Engine) {}

  /** Counts as on its way from the first moment what is still being worked out: nothing reads as saved before it is. */
  protected abstract onItsWay<T>(work: () => Promise<T>): Promise<T>;

  readonly dragged = async (gesture: Gesture): Promise<Meant> => this.engine.dragged(gesture);

  readonly pathTest = async (): Promise<DrawnTest | null> => this.engine.pathTest();

  /** What changes would move, for drawing; nothing is kept. */
  readonly preview = async (changes: readonly Change[]): Promise<Preview> => this.engine.preview(changes);

  readonly readLinks = (activity: string, text: string): Promise<Typed> =>
    this.onItsWay(async () => this.engine.readLinks(activity, text));

  readonly readWork = (activity: string, text: string): Promise<Typed> =>
    this.onItsWay(async () => this.engine.readWork(activity, text));

  readonly chainOf = async (activity: string): Promise<readonly string[]> => this.engine.chainOf(activity);

  readonly work = async (activity: string): Promise<ActivityWork | null> => this.engine.work(activity);

  readonly parking = async (ids: readonly string[]): Promise<Parking> => this.engine.parking(ids);

  /** What removing rows would cut. */
  readonly removal = (ids: readonly string[]): Promise<Removal> => this.onItsWay(async () => this.engine.removal(ids));

  /** What the plan would come to with each of a group's ways live. */
  readonly alternates = async (group: string): Promise<readonly Alternate[]> => this.engine.alternates(group);

  readonly copy = async (ids: readonly string[]): Promise<Branches> => this.engine.copy(ids);

  readonly explain = async (activity: string): Promise<Explanation | null> => this.engine.explain(activity);
}
