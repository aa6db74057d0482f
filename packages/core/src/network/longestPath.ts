import { finishBoundDrives, isBoundByLinks, linkIndex, linkInstant, type EarlyDates } from "./forwardPass.ts";
import * as net from "./network.ts";

/** Whether a link's bound equals its successor's early index (instant, for a milestone). */
export function isDriving(network: net.Network, early: EarlyDates, link: number): boolean {
  const successor = network.linkTo[link]!;
  if (!isBoundByLinks(network, successor)) return false;
  if (network.kind[successor] === net.MILESTONE) return linkInstant(network, early, link) === early.startAt[successor];
  const bound = linkIndex(network, early, link);
  if (network.linkType[link]! <= net.SS) return bound === early.restartIndex[successor];
  return finishBoundDrives(network, early, successor, bound);
}

/** The nodes on the longest path, marked 1: back from those that finish at T along driving links. */
export function longestPath(network: net.Network, early: EarlyDates): Uint8Array {
  const onPath = new Uint8Array(network.count);
  for (let node = 0; node < network.count; node++) if (early.finishAt[node] === early.latestFinish) onPath[node] = 1;
  for (let position = network.count - 1; position >= 0; position--) {
    const node = network.order[position]!;
    if (onPath[node] === 0) continue;
    for (let i = network.inStart[node]!; i < network.inStart[node + 1]!; i++) {
      const link = network.inLinks[i]!;
      if (onPath[network.linkFrom[link]!] === 0 && isDriving(network, early, link)) onPath[network.linkFrom[link]!] = 1;
    }
  }
  return onPath;
}
