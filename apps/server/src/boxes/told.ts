import type { BoxedRow } from "@chronometra/contract";
import { boxedWork, standingIn, type Activity, type BoxedWork } from "@chronometra/core";
import type { HeldPlan } from "../plan/held/heldPlan.ts";

/** What rows of work on pages of timeboxes and of milestones that gather are made of. */
export class Told {
  readonly works: ReadonlyMap<string, BoxedWork>;
  private readonly people: ReadonlyMap<string, string>;

  constructor(private readonly held: HeldPlan) {
    const { plan, whole } = held;
    this.works = boxedWork(plan, whole.bundle, whole.computed.schedule);
    this.people = new Map([...plan.people.values()].map(({ id, name }) => [id, name]));
  }

  branchesOf({ parent }: Activity): Activity[] {
    const { activities } = this.held.plan;
    const found: Activity[] = [];
    for (let at = activities.get(parent ?? ""); at !== undefined; at = activities.get(at.parent ?? ""))
      found.unshift(at);
    return found;
  }

  row(activity: Activity): BoxedRow {
    const { people, ...work } = this.works.get(activity.id)!;
    const branches = this.branchesOf(activity);
    return {
      ...work,
      name: activity.name,
      path: branches.map(({ name }) => name).join(" / "),
      branches: branches.map(({ id }) => id),
      milestone: activity.kind === "milestone",
      people: people.map((id) => this.people.get(id) ?? id),
      blockedBy: this.held.plan.blocks.get(activity.id)?.by ?? null,
    };
  }

  rows(box: string | null): BoxedRow[] {
    return standingIn(this.held.plan, box).map((activity) => this.row(activity));
  }
}
