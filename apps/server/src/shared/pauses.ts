const FIRST_PAUSE_MILLISECONDS = 15_000;
const LONGEST_PAUSE_MILLISECONDS = 60 * 60_000;

/** Over a day with the pauses there are. */
export const MOST_TRIES = 30;

/** Milliseconds before something that failed is tried again: growing, and never over an hour. */
export const pauseAfter = (tries: number): number =>
  Math.min(FIRST_PAUSE_MILLISECONDS * 2 ** (tries - 1), LONGEST_PAUSE_MILLISECONDS);
