import { z } from "zod";
import type { Change } from "../change.ts";
import { ownFieldSchema, ownValuesSchema } from "../ownTables.ts";
import { withBelow } from "../planTree.ts";
import type { Plan } from "../plan.ts";
import {
  activitySchema,
  assignmentSchema,
  calendarSchema,
  costSchema,
  linkSchema,
  personSchema,
  type Activity,
} from "../schema.ts";

/** Activities on their way to another place or plan, with all that hangs on them. */
export const branchesSchema = z.strictObject({
  /** The project's code, which tells whether they come from the plan they go to. */
  from: z.string(),
  activities: z.array(activitySchema),
  links: z.array(linkSchema),
  assignments: z.array(assignmentSchema),
  costs: z.array(costSchema),
  ownValues: z.record(z.string(), ownValuesSchema),
  fields: z.array(ownFieldSchema),
  calendars: z.array(calendarSchema),
  people: z.array(personSchema),
});
export type Branches = z.infer<typeof branchesSchema>;

/** A calendar and those it rests on, what it rests on first. */
function withBases(plan: Plan, id: string | undefined, into: Set<string>): void {
  const calendar = id === undefined ? undefined : plan.calendars.get(id);
  if (calendar === undefined || into.has(calendar.id)) return;
  withBases(plan, calendar.base, into);
  into.add(calendar.id);
}

/** Activities and all below them as they stand, progress and parking included, in the order of the table. */
export function copyBranches(plan: Plan, ids: readonly string[]): Branches {
  const chosen = withBelow(plan.activities.values(), ids);
  const activities = [...plan.activities.values()].filter(({ id }) => chosen.has(id));
  const assignments = [...plan.assignments.values()].filter(({ activity }) => chosen.has(activity));
  const people = [...plan.people.values()].filter(
    ({ id }) => assignments.some(({ person }) => person === id) || activities.some(({ owner }) => owner === id),
  );
  const calendars = new Set<string>();
  for (const { calendar } of [...activities, ...people]) withBases(plan, calendar, calendars);
  const values = Object.fromEntries([...plan.ownValues].filter(([id]) => chosen.has(id)));
  return {
    from: plan.project.code,
    activities,
    links: [...plan.links.values()].filter(({ from, to }) => chosen.has(from) || chosen.has(to)),
    assignments,
    costs: [...plan.costs.values()].filter(({ activity }) => chosen.has(activity)),
    ownValues: values,
    fields: [...plan.fields.values()].filter(({ id }) => Object.values(values).some((own) => id in own)),
    calendars: [...calendars].map((id) => plan.calendars.get(id)!),
    people,
  };
}

interface Place {
  /** The row that what is pasted comes after, on its level; `null` for the end. */
  readonly after: string | null;
  readonly newKey: () => string;
  /** Whether ids that are free stay what they were, as after cutting. */
  readonly keepIds: boolean;
}

const without = <T extends object, K extends keyof T>(row: T, ...names: K[]): Omit<T, K> =>
  Object.fromEntries(Object.entries(row).filter(([name]) => !names.includes(name as K))) as Omit<T, K>;

/** The row after which a sibling begins in the table; `undefined` where the level ends. */
function nextSibling(plan: Plan, after: string | null): string | undefined {
  if (after === null) return undefined;
  const parent = plan.activities.get(after)?.parent;
  const level = [...plan.activities.values()].filter((row) => row.parent === parent).map(({ id }) => id);
  return level[level.indexOf(after) + 1];
}

/**
 * The changes that paste branches into a plan. Ids that are taken are made anew; calendars, people and fields that the
 * plan does not have come along (a calendar or person of the same id is taken to be the same, a field by its name and
 * type); links come along where both ends are there. What is copied begins anew: its progress stays behind unless ids
 * are kept.
 */
export function pasteBranches(plan: Plan, branches: Branches, { after, newKey, keepIds }: Place): Change[] {
  const same = branches.from === plan.project.code;
  const idOf = new Map<string, string>();
  for (const { id } of branches.activities) idOf.set(id, keepIds && !plan.activities.has(id) ? id : newKey());
  const parent = after === null ? undefined : plan.activities.get(after)?.parent;
  const before = nextSibling(plan, after);
  const moved = keepIds && same;
  const asNew = (row: Activity): Activity => {
    const kept = moved ? row : without(row, "actualStart", "actualFinish", "percent", "remainingMinutes", "dropped");
    const own = row.parent === undefined ? undefined : idOf.get(row.parent);
    const to = row.credit?.to;
    const credit = to === undefined ? row.credit : { ...row.credit!, to: idOf.get(to) ?? to };
    const above = own ?? parent;
    return {
      ...without(kept, "parent", "credit"),
      id: idOf.get(row.id)!,
      ...(above === undefined ? {} : { parent: above }),
      ...(credit === undefined ? {} : { credit }),
    } as Activity;
  };
  const end = (id: string): string | undefined => idOf.get(id) ?? (same && plan.activities.has(id) ? id : undefined);
  const links = branches.links.flatMap((link): Change[] => {
    const [from, to] = [end(link.from), end(link.to)];
    // Of a copy, links to what stays outside would tie the new work to the old work's neighbours; only what is moved
    // keeps them.
    const outside = !idOf.has(link.from) || !idOf.has(link.to);
    return from === undefined || to === undefined || (outside && !moved)
      ? []
      : [{ type: "addRow", table: "links", key: newKey(), row: { ...link, from, to } }];
  });
  const fields = new Map(
    branches.fields.map((field) => [
      field.id,
      [...plan.fields.values()].find(
        ({ name, type }) => name.toLowerCase() === field.name.toLowerCase() && type === field.type,
      )?.id ?? null,
    ]),
  );
  const fieldId = new Map([...fields].map(([id, known]) => [id, known ?? (plan.fields.has(id) ? newKey() : id)]));
  return [
    ...branches.calendars
      .filter(({ id }) => !plan.calendars.has(id))
      .map((row): Change => ({ type: "addRow", table: "calendars", key: row.id, row })),
    ...branches.people
      .filter(({ id }) => !plan.people.has(id))
      .map((row): Change => ({ type: "addRow", table: "people", key: row.id, row })),
    ...branches.fields
      .filter(({ id }) => fields.get(id) === null)
      .map((row): Change => ({
        type: "addRow",
        table: "fields",
        key: fieldId.get(row.id)!,
        row: { ...row, id: fieldId.get(row.id)! },
      })),
    ...branches.activities.map((row): Change => ({
      type: "addRow",
      table: "activities",
      key: idOf.get(row.id)!,
      row: asNew(row),
      ...(before === undefined ? {} : { before }),
    })),
    ...links,
    ...branches.assignments.map((row): Change => ({
      type: "addRow",
      table: "assignments",
      key: newKey(),
      row: {
        ...(moved ? row : (without(row, "remainingMinutes", "restart") as typeof row)),
        activity: idOf.get(row.activity)!,
      },
    })),
    ...branches.costs.map((row): Change => {
      const id = keepIds && !plan.costs.has(row.id) ? row.id : newKey();
      return { type: "addRow", table: "costs", key: id, row: { ...row, id, activity: idOf.get(row.activity)! } };
    }),
    ...Object.entries(branches.ownValues).flatMap(([activity, values]) =>
      Object.entries(values).map(([field, value]): Change => ({
        type: "setOwnValue",
        activity: idOf.get(activity)!,
        field: fieldId.get(field)!,
        value,
      })),
    ),
  ];
}
