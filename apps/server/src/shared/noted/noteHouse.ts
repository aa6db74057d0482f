import type { HouseChange, Noted } from "@chronometra/contract";
import type { EntityManager } from "typeorm";
import { HouseChangeEntity } from "./notedEntity.ts";

/** A field as people read it; `value` tells whether it is another where the words are alike. */
export interface NotedField {
  readonly field: string;
  readonly words: string;
  readonly value?: unknown;
}

const EMPTY = "–";
const SUBJECT = 300;

/** What differs between how something was and is, field by field; `null` of what was not, or is not any more. */
export function differingFields(
  was: readonly NotedField[] | null,
  is: readonly NotedField[] | null,
): HouseChange["lines"] {
  const before = new Map((was ?? []).map((each) => [each.field, each]));
  const after = new Map((is ?? []).map((each) => [each.field, each]));
  return [...new Set([...before.keys(), ...after.keys()])].flatMap((field) => {
    const [a, b] = [before.get(field), after.get(field)];
    const [x, y] = [a?.words || EMPTY, b?.words || EMPTY];
    if (x !== y) return [{ field, was: x, is: y }];
    return JSON.stringify(a?.value) === JSON.stringify(b?.value) ? [] : [{ field, was: x, is: `${y} (other details)` }];
  });
}

/** Notes that something of the house was changed, in the transaction that changes it; nothing where it was not. */
export async function noteHouse(
  manager: EntityManager,
  me: { readonly id: string },
  { about, subject }: { readonly about: Noted; readonly subject: string },
  was: readonly NotedField[] | null,
  is: readonly NotedField[] | null,
): Promise<void> {
  const lines = differingFields(was, is);
  if (lines.length === 0) return;
  await manager.getRepository(HouseChangeEntity).insert({
    ...{ at: new Date(), accountId: me.id, about, subject: subject.slice(0, SUBJECT), lines: JSON.stringify(lines) },
  });
}
