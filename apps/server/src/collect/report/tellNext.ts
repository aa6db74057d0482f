import { planTree, stateOf, type Plan } from "@chronometra/core";
import { In, type EntityManager } from "typeorm";
import { AccountEntity } from "../../access/accountEntity.ts";
import type { Message, Post } from "../../tell/post.ts";

const DONE = 2;

/** What became free to begin because something before it was finished: activities with the people on them. */
export function freed(before: Plan, after: Plan): { id: string; name: string; people: string[]; because: string[] }[] {
  const done = (plan: Plan, id: string): boolean => {
    const activity = plan.activities.get(id);
    return activity === undefined || stateOf(activity) === DONE;
  };
  const finished = new Set(
    [...after.activities.keys()].filter((id) => done(after, id) && before.activities.has(id) && !done(before, id)),
  );
  if (finished.size === 0) return [];
  const { parked } = planTree([...after.activities.values()]);
  const comesBefore = new Map<string, string[]>();
  for (const { from, to, type = "FS" } of after.links.values())
    if (type === "FS" && !parked.has(from)) comesBefore.set(to, [...(comesBefore.get(to) ?? []), from]);
  return [...after.activities.values()].flatMap(({ id, name, actualStart, kind }) => {
    const froms = comesBefore.get(id) ?? [];
    const because = froms.filter((from) => finished.has(from));
    if (
      because.length === 0 ||
      actualStart !== undefined ||
      kind === "milestone" ||
      parked.has(id) ||
      froms.some((from) => !done(after, from))
    )
      return [];
    const people = [
      ...new Set([...after.assignments.values()].flatMap(({ activity, person }) => (activity === id ? [person] : []))),
    ];
    return [{ id, name, people, because: because.map((from) => after.activities.get(from)!.name) }];
  });
}

/** Tells whoever comes next that they can begin: one message a person, whatever became free. */
export async function tellNext(
  manager: EntityManager,
  post: Post,
  decided: readonly { before: Plan; plan: Plan }[],
): Promise<void> {
  const lines = new Map<string, string[]>();
  for (const { before, plan } of decided) {
    for (const { name, people, because } of freed(before, plan)) {
      for (const person of people)
        lines.set(person, [
          ...(lines.get(person) ?? []),
          `${name} (${plan.project.name}) can begin: ${because.join(" and ")} ${because.length === 1 ? "is" : "are"} done.`,
        ]);
    }
  }
  if (lines.size === 0) return;
  const accounts = await manager.getRepository(AccountEntity).findBy({ personId: In([...lines.keys()]) });
  const messages = accounts.map((to): Message => ({
    to,
    kind: "begin",
    subject: "You can begin",
    body: lines.get(to.personId!)!.join("\n"),
    link: "/desk",
  }));
  await post.put(manager, messages);
}
