import { succession } from "../../plan/derived/succession.ts";
import type { PlanTree } from "../../plan/planTree.ts";
import type { Link } from "../../plan/schema.ts";
import * as net from "./network.ts";

const TYPE_CODE = { FS: net.FS, SS: net.SS, FF: net.FF, SF: net.SF } as const;

/** Where links begin and end, as positions in the plan's activities, link by link. */
export function linkEnds(links: readonly Link[], { indexOf }: PlanTree): net.LinkEnds {
  const from = new Int32Array(links.length);
  const to = new Int32Array(links.length);
  links.forEach((link, i) => {
    from[i] = indexOf.get(link.from)!;
    to[i] = indexOf.get(link.to)!;
  });
  return { from, to };
}

/**
 * The same where most links and activities were there before: only new links are looked up.
 * @param nowAt by position before: where an activity stands now
 */
export function linkEndsAgain(
  links: readonly Link[],
  tree: PlanTree,
  before: { readonly links: readonly Link[]; readonly ends: net.LinkEnds },
  nowAt: Int32Array,
): net.LinkEnds {
  const was = succession(before.links, links).from;
  const from = new Int32Array(links.length);
  const to = new Int32Array(links.length);
  for (let i = 0; i < links.length; i++) {
    const old = was[i]!;
    from[i] = old < 0 ? tree.indexOf.get(links[i]!.from)! : nowAt[before.ends.from[old]!]!;
    to[i] = old < 0 ? tree.indexOf.get(links[i]!.to)! : nowAt[before.ends.to[old]!]!;
  }
  return { from, to };
}

/** Links that are in: which of the plan's each is, and the nodes between which it leads. */
export interface PlacedLinks {
  readonly row: Int32Array;
  readonly from: Int32Array;
  readonly to: Int32Array;
}

/**
 * Those links of a plan that are in.
 * @param nodeOf by position in the plan's activities, -1 where an activity is not in the passes
 */
export function placeLinks(ends: net.LinkEnds, nodeOf: Int32Array): PlacedLinks {
  const all = ends.from.length;
  const [row, from, to] = [new Int32Array(all), new Int32Array(all), new Int32Array(all)];
  let filled = 0;
  for (let i = 0; i < all; i++) {
    const begin = nodeOf[ends.from[i]!]!;
    const end = nodeOf[ends.to[i]!]!;
    if (begin < 0 || end < 0) continue;
    row[filled] = i;
    from[filled] = begin;
    to[filled++] = end;
  }
  return { row: row.subarray(0, filled), from: from.subarray(0, filled), to: to.subarray(0, filled) };
}

/** The same links where nodes have other numbers. */
export const renumbered = ({ row, from, to }: PlacedLinks, nodeAt: Int32Array): PlacedLinks => ({
  row,
  from: from.map((node) => nodeAt[node]!),
  to: to.map((node) => nodeAt[node]!),
});

/** The links by successor and again by predecessor. */
export function linkColumns(
  links: readonly Link[],
  { row, from, to }: PlacedLinks,
  count: number,
): Pick<net.Network, "inStart" | "inLinks" | "inRow" | "linkRows" | "outStart" | "outLinks"> {
  const into = net.groupBy(to, count);
  const outOf = net.groupBy(from, count);
  return {
    inStart: into.start,
    inLinks: arranged(links, row, into.items, from),
    inRow: into.items.map((item) => row[item]!),
    linkRows: links,
    outStart: outOf.start,
    outLinks: arranged(links, row, outOf.items, to),
  };
}

function arranged(links: readonly Link[], row: Int32Array, items: Int32Array, others: Int32Array): net.LinkColumns {
  const count = items.length;
  const columns = {
    other: new Int32Array(count),
    type: new Uint8Array(count),
    lag: new Float64Array(count),
    elapsed: new Uint8Array(count),
  };
  for (let i = 0; i < count; i++) {
    const item = items[i]!;
    const link = links[row[item]!]!;
    columns.other[i] = others[item]!;
    columns.type[i] = TYPE_CODE[link.type ?? "FS"];
    columns.lag[i] = link.lagMinutes ?? 0;
    columns.elapsed[i] = link.lagIn === "elapsed" ? 1 : 0;
  }
  return columns;
}
