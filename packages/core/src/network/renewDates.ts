import { backwardAgain, backwardPass, LATE_COLUMNS, noLateDates, type LateDates } from "./backwardPass.ts";
import { copiedDates, EARLY_COLUMNS, emptyDates, type EarlyDates } from "./forwardPass.ts";
import { forwardAgain } from "./forwardAgain.ts";
import { gather, type Network } from "./laid/network.ts";
import type { Renewed } from "./laid/renewNetwork.ts";

/** Early and late dates of a network. */
export interface Dates {
  readonly early: EarlyDates;
  readonly late: LateDates;
}

/** Dates made of earlier ones. */
export interface RenewedDates extends Dates {
  /** By node, 1 where any date or float may be other than before. */
  readonly others: Uint8Array;
}

/**
 * Both passes over a network that was made of another whose dates are known: only what moves is computed.
 * @throws {NodeOutsideHorizon} where a date runs outside 1990 to 2099
 */
export function renewDates({ network, was, stirred }: Renewed, before: Dates): RenewedDates {
  const early = earlyAsBefore(network, before.early, was);
  const moved = forwardAgain(network, early, stirred);
  if (early.latestFinish !== before.early.latestFinish)
    return { early, late: backwardPass(network, early), others: moved.fill(1) };
  const late = lateAsBefore(network, before.late, was);
  const shifted = backwardAgain(network, early, late, stirred, moved);
  for (const node of stirred) shifted[node] = 1;
  for (let node = 0; node < network.count; node++) if (moved[node] === 1) shifted[node] = 1;
  return { early, late, others: shifted };
}

function earlyAsBefore(network: Network, before: EarlyDates, was: Int32Array | null): EarlyDates {
  if (was === null && before.startAt.length === network.count) return copiedDates(before);
  const early = emptyDates(network.count);
  for (const column of EARLY_COLUMNS) gather(before[column], was, early[column]);
  return early;
}

function lateAsBefore(network: Network, before: LateDates, was: Int32Array | null): LateDates {
  if (was === null && before.startAt.length === network.count) return copiedLate(before);
  const late = noLateDates(network.count);
  for (const column of LATE_COLUMNS) gather(before[column], was, late[column]);
  return late;
}

const copiedLate = (late: LateDates): LateDates =>
  Object.fromEntries(LATE_COLUMNS.map((column) => [column, late[column].slice()])) as unknown as LateDates;
