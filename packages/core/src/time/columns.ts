import type { LocalMinute, WorkMinutes } from "./instant.ts";

/** Many numbers of one unit beside each other, as the passes read them. */
export type InstantColumn = Float64Array & { [at: number]: LocalMinute };
export type WorkColumn = Float64Array & { [at: number]: WorkMinutes };

/** Room for so many instants. */
export const instantColumn = (count: number): InstantColumn => new Float64Array(count) as InstantColumn;
/** A column of dates that activities may not have: -1 where there is none. */
export type KnownInstants = Int32Array & { [at: number]: LocalMinute };
export const knownInstants = (count: number): KnownInstants => new Int32Array(count).fill(-1) as KnownInstants;
/** A copy of a column, to be written to. */
export const copyOf = (column: WorkColumn): WorkColumn => column.slice() as WorkColumn;
/** Room for so many working minutes, or indices of a calendar. */
export const workColumn = (count: number): WorkColumn => new Float64Array(count) as WorkColumn;
