import type { PlanView } from "@chronometra/contract";
import type { Alternate, Arrangement, Branches, Change, Explanation } from "@chronometra/core";
import type { ActivityWork } from "./activityWork.ts";
import type { Gesture, Meant } from "./dragged.ts";
import type { BlockTyped, DrawnTest, Parking, PendingList, Preview, Tried, Typed } from "./planEngine.ts";
import type { SheetPatch } from "./sheetPatch.ts";

/** An answer that may take a moment. */
export type Soon<T> = Promise<T> | T;

/** The engine as it is reached from the page: every answer takes a moment. */
export interface Engine {
  open(view: PlanView, pending: readonly PendingList[]): Soon<SheetPatch>;
  compareWith(baseline: number): Soon<SheetPatch>;
  change(list: string, changes: readonly Change[]): Soon<Tried>;
  readBlock(block: BlockTyped): Soon<{ readonly changes: readonly Change[] } | { readonly faults: readonly string[] }>;
  preview(changes: readonly Change[]): Soon<Preview>;
  pathTest(): Soon<DrawnTest | null>;
  dragged(gesture: Gesture): Soon<Meant>;
  confirm(list: string, stored: readonly Change[]): Soon<SheetPatch>;
  reject(list: string): Soon<SheetPatch>;
  advance(stored: readonly Change[]): Soon<SheetPatch>;
  arrange(arrangement: Arrangement): Soon<readonly Change[]>;
  readLinks(activity: string, text: string): Soon<Typed>;
  readWork(activity: string, text: string): Soon<Typed>;
  explain(activity: string): Soon<Explanation | null>;
  chainOf(activity: string): Soon<readonly string[]>;
  work(activity: string): Soon<ActivityWork | null>;
  parking(ids: readonly string[]): Soon<Parking>;
  removal(ids: readonly string[]): Soon<Removal>;
  wake(ids: readonly string[]): Soon<readonly Change[]>;
  alternates(group: string): Soon<readonly Alternate[]>;
  ways(
    make:
      | { readonly members: readonly string[]; readonly name: string }
      | { readonly group: string; readonly live: string },
  ): Soon<readonly Change[]>;
  copy(ids: readonly string[]): Soon<Branches>;
  paste(branches: Branches, after: string | null, keepIds: boolean): Soon<readonly Change[]>;
}

/** As parking, for rows that are removed; and how many links go with them. */
export interface Removal extends Parking {
  readonly links: number;
}
