import type { Me, Portfolio } from "@chronometra/contract";
import { seesAll, seesGroup } from "../shared/session/session.ts";

/** A programme as far as its place is concerned. */
type Programme = Pick<Portfolio["programmes"][number], "id" | "name" | "parent">;

export const OUTSIDE = "Outside the programmes";

/** The names from the topmost portfolio down to a programme. */
export function pathOfProgramme(programmes: readonly Programme[], id: string | null): string[] {
  if (id === null) return [OUTSIDE];
  const byId = new Map(programmes.map((each) => [each.id, each]));
  const names: string[] = [];
  for (
    let at = byId.get(id);
    at !== undefined && names.length <= programmes.length;
    at = at.parent === null ? undefined : byId.get(at.parent)
  )
    names.unshift(at.name);
  return names.length === 0 ? [OUTSIDE] : names;
}

/** Programmes in the order of the tree: each before what is part of it. */
export function inTreeOrder(programmes: readonly Programme[]): { programme: Programme; depth: number }[] {
  const below = new Map<string | null, Programme[]>();
  for (const each of programmes) below.set(each.parent, [...(below.get(each.parent) ?? []), each]);
  const walk = (parent: string | null, depth: number): { programme: Programme; depth: number }[] =>
    (below.get(parent) ?? []).flatMap((programme) => [{ programme, depth }, ...walk(programme.id, depth + 1)]);
  return walk(null, 0);
}

/** The groups that someone looks into, the topmost alone, where that is not the whole house; else `null`. */
export function reachInWords(me: Me, programmes: readonly Programme[]): string | null {
  if (seesAll(me)) return null;
  const top = programmes.filter(({ id, parent }) => seesGroup(me, id) && (parent === null || !seesGroup(me, parent)));
  return top.length === 0 ? null : top.map(({ name }) => name).join(", ");
}
