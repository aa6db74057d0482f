import type { Change } from "../change.ts";
import { ownRowsWithout } from "./hanging.ts";
import type { Plan } from "../plan.ts";

/**
 * Puts a person where a role was kept open: all that the placeholder was to do becomes theirs, and the placeholder
 * goes.
 * @param to a person of the plan
 */
export function fillPlaceholder(plan: Plan, placeholder: string, to: string): Change[] {
  return [
    ...[...plan.assignments].flatMap(([key, { person }]): Change[] =>
      person === placeholder ? [{ type: "editRow", table: "assignments", key, set: { person: to } }] : [],
    ),
    ...[...plan.activities.values()].flatMap(({ id, owner }): Change[] =>
      owner === placeholder ? [{ type: "setWorking", activity: id, owner: to }] : [],
    ),
    ...removePerson(plan, placeholder).filter(({ type }) => type !== "setWorking"),
  ];
}

/**
 * Takes a person out of the plan's list, out of its teams, and from what they own; their work has to be given away
 * first.
 */
export function removePerson(plan: Plan, id: string): Change[] {
  return [
    ...[...plan.activities.values()].flatMap((activity): Change[] =>
      activity.owner === id ? [{ type: "setWorking", activity: activity.id, owner: null }] : [],
    ),
    ...[...plan.teams].flatMap(([key, { members }]): Change[] =>
      members.includes(id)
        ? [{ type: "editRow", table: "teams", key, set: { members: members.filter((member) => member !== id) } }]
        : [],
    ),
    ...ownRowsWithout(plan, id),
    ...(plan.placeholders.has(id) ? [{ type: "removeRow", table: "placeholders", key: id } as const] : []),
    { type: "removeRow", table: "people", key: id },
  ];
}

/** Takes a field of one's own out, with all that was written in it. */
export function removeOwnField(plan: Plan, field: string): Change[] {
  return [
    ...[...plan.ownValues].flatMap(([activity, values]): Change[] =>
      field in values ? [{ type: "setOwnValue", activity, field, value: null }] : [],
    ),
    { type: "removeRow", table: "fields", key: field },
  ];
}

/** Renames a cost category wherever a planned cost names it. */
export function renameCategory(plan: Plan, key: string, name: string): Change[] {
  const former = plan.categories.get(key)?.name;
  return [
    { type: "editRow", table: "categories", key, set: { name } },
    ...[...plan.costs].flatMap(([cost, { category }]): Change[] =>
      category === former ? [{ type: "editRow", table: "costs", key: cost, set: { category: name } }] : [],
    ),
  ];
}
