import { createHash } from "node:crypto";
import type { LineKind } from "@chronometra/contract";
import { activityNames, CallNames, peopleNames, planTree, type Plan } from "@chronometra/core";

/** What a line says of where it belongs, before it is matched. */
export interface Said {
  readonly project: string;
  readonly activity: string;
  readonly person: string;
}

/** Where a line belongs, or why that cannot be told. */
export type Match =
  | { readonly project: string; readonly activity: string; readonly person: string | null }
  | { readonly why: string; readonly project: string | null };

export interface Candidate {
  readonly id: string;
  readonly code: string;
  readonly plan: Plan;
}

const plain = (text: string): string =>
  text
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim();

/** The key under which a match by hand is remembered. */
export const saidKey = (kind: LineKind, { project, activity, person }: Said): string =>
  createHash("sha256")
    .update(JSON.stringify([plain(project), plain(activity), kind === "time" ? plain(person) : ""]))
    .digest("hex");

/** The one thing that a text names by id, by name or by what it is called; several are named in the fault. */
function named<T extends { readonly id: string; readonly name: string }>(
  things: readonly T[],
  names: CallNames,
  text: string,
  what: string,
): T | { readonly why: string } {
  const exact = things.find(({ id }) => id === text);
  if (exact !== undefined) return exact;
  const alike = things.filter(({ id, name }) => plain(name) === plain(text) || plain(names.of(id)) === plain(text));
  if (alike.length === 1) return alike[0]!;
  return {
    why:
      alike.length === 0
        ? `there is no ${what} “${text}”`
        : `there are ${alike.length} of the name “${text}”: ${alike
            .map(({ id }) => names.of(id))
            .slice(0, 4)
            .join(", ")}`,
  };
}

/** What of a plan can take time and cost, by what it is called: no summaries, nothing parked. */
function takerNames(plan: Plan): CallNames {
  const { parked } = planTree([...plan.activities.values()]);
  return activityNames(plan.activities.values(), { among: ({ id, kind }) => kind !== "summary" && !parked.has(id) });
}

/** What of a plan can take time and cost, to choose from. */
export function takers(plan: Plan): { id: string; name: string }[] {
  const names = takerNames(plan);
  return [...plan.activities.keys()].filter((id) => names.has(id)).map((id) => ({ id, name: names.of(id) }));
}

/** Everyone of a plan, to choose from. */
export function everyone(plan: Plan): { id: string; name: string }[] {
  const names = peopleNames(plan.people.values());
  return [...plan.people.keys()].map((id) => ({ id, name: names.of(id) }));
}

function namedProject(projects: readonly Candidate[], text: string): Candidate | { readonly why: string } {
  const called = projects.map((project) => ({ ...project, name: project.plan.project.name }));
  const names = new CallNames(called.map(({ id, name, code }) => ({ id, name, apart: () => [code] })));
  return projects.find(({ code }) => plain(code) === plain(text)) ?? named(called, names, text, "project");
}

/** Matches a line by code or name of its project, id or name of its activity and of its person. */
export function matchLine(kind: LineKind, said: Said, projects: readonly Candidate[]): Match {
  const found = namedProject(projects, said.project);
  if ("why" in found) return { why: found.why, project: null };
  if (said.activity === "") return { why: "no activity is named", project: found.id };
  const names = takerNames(found.plan);
  const open = [...found.plan.activities.values()].filter(({ id }) => names.has(id));
  const activity = named(open, names, said.activity, "activity that takes time or cost");
  if ("why" in activity) return { why: activity.why, project: found.id };
  if (kind === "cost") return { project: found.id, activity: activity.id, person: null };
  if (said.person === "") return { why: "no person is named", project: found.id };
  const people = [...found.plan.people.values()];
  const person = named(people, peopleNames(people), said.person, "person");
  return "why" in person
    ? { why: person.why, project: found.id }
    : { project: found.id, activity: activity.id, person: person.id };
}
