import { keepPreference, preference } from "../../shared/session/preferences.ts";

/** Something that was opened: where it is, what it is called, what it is. */
export interface Recent {
  readonly to: string;
  readonly name: string;
  readonly aside: string;
  readonly kind: string;
}

const KEPT = "find.recent";
const MOST = 12;

const isRecent = (each: unknown): each is Recent =>
  typeof each === "object" &&
  each !== null &&
  ["to", "name", "aside", "kind"].every((field) => typeof (each as Record<string, unknown>)[field] === "string");

/** What someone opened last, the newest first. */
export function recentThings(): Recent[] {
  try {
    const kept: unknown = JSON.parse(preference(KEPT) ?? "[]");
    return Array.isArray(kept) ? kept.filter(isRecent).slice(0, MOST) : [];
  } catch {
    return [];
  }
}

/** Remembers that something was opened, on any machine of this person. */
export function opened(thing: Recent): void {
  const before = recentThings();
  if (before[0]?.to === thing.to && before[0].name === thing.name) return;
  keepPreference(KEPT, JSON.stringify([thing, ...before.filter(({ to }) => to !== thing.to)].slice(0, MOST)));
}
