import type { Change } from "../change.ts";
import type { ActivityNote } from "../ownTables.ts";
import type { Plan } from "../plan.ts";

/** Parts of an activity's notes as they are written; `null` takes one away. */
export type NoteParts = { readonly [K in keyof ActivityNote]: ActivityNote[K] | null };

/** The changes that write parts of an activity's notes; where nothing is said any more, there are none. */
export function noteChanges({ notes }: Pick<Plan, "notes">, activity: string, parts: NoteParts): Change[] {
  const was = notes.get(activity);
  const now = Object.fromEntries(
    Object.entries({ ...was, ...parts }).filter(
      ([, value]) => value !== null && value !== undefined && (!Array.isArray(value) || value.length > 0),
    ),
  ) as ActivityNote;
  if (Object.keys(now).length === 0)
    return was === undefined ? [] : [{ type: "removeRow", table: "notes", key: activity }];
  if (was === undefined) return [{ type: "addRow", table: "notes", key: activity, row: now }];
  const set = Object.fromEntries(
    (Object.keys(parts) as (keyof ActivityNote)[]).map((part) => [part, now[part] ?? null]),
  );
  return [{ type: "editRow", table: "notes", key: activity, set } as Change];
}
