import { localMinute, workMinutes } from "../time/instant.ts";
import { OutsideHorizon } from "../time/workCalendar.ts";
import {
  calendarFloors,
  latestOf,
  NodeOutsideHorizon,
  placeNode,
  type EarlyDates,
  type Writable,
} from "./forwardPass.ts";
import * as net from "./laid/network.ts";

/**
 * The forward pass where most dates are known: places some nodes, and what comes after them as far as it moves.
 * @param early dates as they were before of these nodes, which are written to
 * @param stirred nodes of which something is other than it was when these dates were made
 * @returns by node, 1 where its early dates are other than before
 * @throws {NodeOutsideHorizon} where a date runs outside 1990 to 2099
 */
export function forwardAgain(network: net.Network, early: EarlyDates, stirred: readonly number[]): Uint8Array {
  const floors = calendarFloors(network);
  const waiting = new Uint8Array(network.count);
  const moved = new Uint8Array(network.count);
  const other = new Uint8Array(network.count);
  for (const node of stirred) waiting[node] = other[node] = 1;
  let node = stirred.reduce((least, each) => Math.min(least, each), network.count);
  try {
    for (; node < network.count; node++) {
      if (waiting[node] === 0) continue;
      moved[node] = placeAgain(network, early, node, floors) ? 1 : 0;
      // What is other in itself may ask something else of what comes after it from the same dates.
      if (moved[node] === 0 && other[node] === 0) continue;
      for (let link = network.outStart[node]!; link < network.outStart[node + 1]!; link++)
        waiting[network.outLinks.other[link]!] = 1;
    }
  } catch (error) {
    throw error instanceof OutsideHorizon ? new NodeOutsideHorizon(node) : error;
  }
  (early as Writable<EarlyDates>).latestFinish = latestOf(early.finishAt);
  return moved;
}

/** Places a node that may have dates; gives whether they are others now. */
function placeAgain(
  network: net.Network,
  early: Writable<EarlyDates>,
  node: number,
  floors: ReturnType<typeof calendarFloors>,
): boolean {
  // Written out column by column: in a large plan tens of thousands of nodes follow one another here.
  const { startAt, finishAt, startIndex, finishIndex, restartIndex, restartAt, shownAsFinish } = early;
  const start = startAt[node];
  const finish = finishAt[node];
  const fromIndex = startIndex[node];
  const toIndex = finishIndex[node];
  const againIndex = restartIndex[node];
  const againAt = restartAt[node];
  const asFinish = shownAsFinish[node];
  // What a node of this kind has no use for is nothing, as in a pass from nothing.
  shownAsFinish[node] = 0;
  if (network.state[node] === net.COMPLETE) {
    restartIndex[node] = workMinutes(0);
    restartAt[node] = localMinute(0);
  }
  placeNode(network, early, node, floors);
  return (
    startAt[node] !== start ||
    finishAt[node] !== finish ||
    startIndex[node] !== fromIndex ||
    finishIndex[node] !== toIndex ||
    restartIndex[node] !== againIndex ||
    restartAt[node] !== againAt ||
    shownAsFinish[node] !== asFinish
  );
}
