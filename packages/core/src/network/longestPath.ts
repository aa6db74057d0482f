import { finishBoundDrives, isBoundByLinks, linkIndex, linkInstant, type EarlyDates } from "./forwardPass.ts";
import * as net from "./laid/network.ts";

/**
 * Whether a link's bound equals its successor's early index (instant, for a milestone).
 * @param link position among the links into `node`
 */
export function isDriving(network: net.Network, early: EarlyDates, link: number, node: number): boolean {
  if (!isBoundByLinks(network, node)) return false;
  if (network.kind[node] === net.MILESTONE) return linkInstant(network, early, link, node) === early.startAt[node];
  const bound = linkIndex(network, early, link, node);
  if (network.inLinks.type[link]! <= net.SS) return bound === early.restartIndex[node];
  return finishBoundDrives(network, early, node, bound);
}

/** The nodes on the longest path, marked 1: back from those that finish at T along driving links. */
export function longestPath(network: net.Network, early: EarlyDates): Uint8Array {
  const onPath = new Uint8Array(network.count);
  for (let node = 0; node < network.count; node++) if (early.finishAt[node] === early.latestFinish) onPath[node] = 1;
  for (let node = network.count - 1; node >= 0; node--) {
    if (onPath[node] === 0) continue;
    for (let link = network.inStart[node]!; link < network.inStart[node + 1]!; link++) {
      const from = network.inLinks.other[link]!;
      if (onPath[from] === 0 && isDriving(network, early, link, node)) onPath[from] = 1;
    }
  }
  return onPath;
}
