import { fromBundle, type Plan } from "../plan/plan.ts";
import type { Activity, Assignment, Link, Person } from "../plan/schema.ts";
import { emptyPlan } from "./emptyPlan.ts";

/** Something that has to be done, as whoever was never trained in planning says it. */
export interface Step {
  readonly name: string;
  /** 0 for a milestone. */
  readonly minutes: number;
  /** Whether it comes after the one above; beside it else. */
  readonly after: boolean;
  /** Who does it, by name or role; empty for nobody yet. */
  readonly who: string;
}

const DONE = "done";

/**
 * A plan of steps one below the other: each comes after the one above it or begins with it, and all of them lead to one
 * milestone. Whoever does something stands for a role until someone is named.
 * @param steps one at least; a step beside the first begins with the project
 */
export function planOfSteps(
  head: { readonly code: string; readonly name: string; readonly start: string; readonly currency: string },
  steps: readonly Step[],
): Plan {
  const people = new Map<string, Person>();
  const activities: Activity[] = [];
  const assignments: Assignment[] = [];
  const links: Link[] = [];
  // What stands side by side waits for the same, and all of it is waited for by what comes after it.
  let before: string[] = [];
  let beside: string[] = [];
  steps.forEach(({ name, minutes, after, who }, i) => {
    const id = `step-${i + 1}`;
    activities.push(minutes === 0 ? { id, name, kind: "milestone" } : { id, name, durationMinutes: minutes });
    if (after && i > 0) {
      before = beside;
      beside = [];
    }
    links.push(...before.map((from) => ({ from, to: id })));
    beside.push(id);
    const called = who.trim();
    if (called === "" || minutes === 0) return;
    const key = called.toLowerCase();
    const person = people.get(key) ?? { id: `who-${people.size + 1}`, name: called };
    people.set(key, person);
    assignments.push({ activity: id, person: person.id, plannedMinutes: minutes });
  });
  const waitedFor = new Set(links.map(({ from }) => from));
  activities.push({ id: DONE, name: `${head.name} complete`.slice(0, 200), kind: "milestone" });
  links.push(...activities.flatMap(({ id }) => (id === DONE || waitedFor.has(id) ? [] : [{ from: id, to: DONE }])));
  const plan = fromBundle({ ...emptyPlan(head), people: [...people.values()], activities, links, assignments });
  return { ...plan, placeholders: new Map([...people.values()].map(({ id }) => [id, { person: id }])) };
}
