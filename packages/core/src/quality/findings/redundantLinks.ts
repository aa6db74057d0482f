import { COMPLETE, FS, NOT_STARTED, type Network } from "../../network/laid/network.ts";
import type { Finding } from "../ground/finding.ts";
import type { Ground, PlacedLink } from "../ground/ground.ts";
import { linkOffence } from "../ground/linkWords.ts";

/** Columns of ancestors that are looked at together: a row of them is 16 words, and all rows of a large plan keep within what a processor holds at hand. */
const BLOCK = 512;
const WORDS = BLOCK / 32;

/**
 * Links that say no more than others do: an equal one, or a finish-to-start without lag along which others lead as well.
 * Ancestors are gathered as bits, a block of them at a time, in the order in which the network's nodes stand.
 */
export function redundant({ schedule: { network }, allLinks }: Ground): PlacedLink[] {
  const { count, inStart, state, inLinks } = network;
  const { other: from, type, lag } = inLinks;
  const found = new Uint8Array(from.length);
  // Only what holds for certain leads on: no lead, and nothing that has begun, since actual dates need not keep to links.
  const strong = new Uint8Array(from.length);
  // A block of ancestors is followed no further than to the last link that leads out of it.
  const last = new Int32Array(Math.ceil(count / BLOCK)).fill(-1);
  for (let node = 0; node < count; node++) {
    for (let l = inStart[node]!; l < inStart[node + 1]!; l++) {
      if (type[l] !== FS || lag[l]! < 0 || state[node] !== NOT_STARTED) continue;
      strong[l] = 1;
      if (lag[l] === 0) last[Math.floor(from[l]! / BLOCK)] = node;
    }
    if (inStart[node + 1]! - inStart[node]! > 1 && state[node] !== COMPLETE)
      markRepeated(allLinks, inStart[node]!, inStart[node + 1]!, found);
  }
  const above = new Int32Array(count * WORDS);
  for (let first = 0; first < count; first += BLOCK) {
    const end = last[first / BLOCK]!;
    if (end < 0) continue;
    above.fill(0, first * WORDS, (end + 1) * WORDS);
    for (let node = first; node <= end; node++) gatherAncestors(network, strong, above, found, first, node);
  }
  return allLinks.filter((_, l) => found[l] === 1);
}

/** The ancestors of one node within a block; marks the plain links into it that others lead along as well. */
function gatherAncestors(
  { inStart, inLinks: { other: from, lag } }: Network,
  strong: Uint8Array,
  above: Int32Array,
  found: Uint8Array,
  first: number,
  node: number,
): void {
  const [begin, beyond, own] = [inStart[node]!, inStart[node + 1]!, node * WORDS];
  for (let l = begin; l < beyond; l++) {
    if (strong[l] === 0 || from[l]! < first) continue;
    const theirs = from[l]! * WORDS;
    for (let word = 0; word < WORDS; word++) above[own + word]! |= above[theirs + word]!;
  }
  for (let l = begin; l < beyond; l++) {
    const bit = from[l]! - first;
    if (
      strong[l] === 1 &&
      lag[l] === 0 &&
      bit >= 0 &&
      bit < BLOCK &&
      (above[own + (bit >> 5)]! & (1 << (bit & 31))) !== 0
    )
      found[l] = 1;
  }
  for (let l = begin; l < beyond; l++) {
    const bit = from[l]! - first;
    if (strong[l] === 1 && bit >= 0 && bit < BLOCK) above[own + (bit >> 5)]! |= 1 << (bit & 31);
  }
}

/** Of links into one node that are equal all but the first; and a plain one beside another that asks for a lag as well. */
function markRepeated(links: readonly PlacedLink[], begin: number, end: number, found: Uint8Array): void {
  for (let i = begin; i < end; i++) {
    for (let k = begin; k < end; k++)
      if (k !== i && links[k]!.from === links[i]!.from && saysAsMuch(links[k]!.link, links[i]!.link, k < i))
        found[i] = 1;
  }
}

/** Whether one of two links between the same ends makes the other superfluous; of equal ones, the first. */
function saysAsMuch(other: PlacedLink["link"], own: PlacedLink["link"], isFirst: boolean): boolean {
  const [lag, ownLag] = [other.lagMinutes ?? 0, own.lagMinutes ?? 0];
  if ((other.type ?? "FS") !== (own.type ?? "FS")) return false;
  if (ownLag === 0 && lag > 0) return (own.type ?? "FS") === "FS";
  return isFirst && lag === ownLag && (lag === 0 || (other.lagIn ?? "successor") === (own.lagIn ?? "successor"));
}

export const redundantLinks: Finding = {
  key: "redundantLinks",
  about: "plan",
  name: "Redundant links",
  why: "They say what other links say already: the plan is harder to read, and changing it leaves them behind.",
  mend: "links",
  find: (ground) => redundant(ground).map(linkOffence),
};
