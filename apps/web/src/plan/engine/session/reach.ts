import { CallFailed } from "../../../shared/session/api.ts";

const FIRST_PAUSE_MILLISECONDS = 1000;
const LONGEST_PAUSE_MILLISECONDS = 60_000;
/** A server that fails in a way of its own may do better the next time, but not for ever. */
const TRIES_OF_A_FAULT = 3;

/** Statuses of a server that is away, restarting, too busy, or wants one to sign in again; 0 where nothing answered. */
const AWAY = new Set([0, 401, 408, 425, 429, 502, 503, 504]);

/** Before the next try: growing, at most a minute. */
export const pauseAfter = (tries: number): number =>
  Math.min(FIRST_PAUSE_MILLISECONDS * 2 ** (tries - 1), LONGEST_PAUSE_MILLISECONDS);

/**
 * Whether the server can be reached: tries again by itself with growing pauses, and at once when there is a sign of it.
 */
export class Reach {
  private tries = 0;
  private timer: ReturnType<typeof setTimeout> | null = null;

  /** @param again what to do when it is worth trying */
  constructor(private readonly again: () => void) {}

  get isAway(): boolean {
    return this.tries > 0;
  }

  /** Whether a failure means that the same call may go through later. */
  passes(error: unknown): boolean {
    if (!(error instanceof CallFailed)) return false;
    return AWAY.has(error.status) || (error.status >= 500 && this.tries < TRIES_OF_A_FAULT);
  }

  /** Whether trying again is of no use: the plan is gone or not theirs any more, or this page itself fails. */
  isFinal(error: unknown): boolean {
    return !this.passes(error) && !(error instanceof CallFailed && error.status >= 500);
  }

  /** A call did not get through. */
  lost(): void {
    this.tries++;
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = setTimeout(() => this.sign(), pauseAfter(this.tries));
  }

  /** A call got through. */
  found(): void {
    this.tries = 0;
    this.rest();
  }

  /** Something says that it may be back: it is tried at once. */
  readonly sign = (): void => {
    this.rest();
    this.again();
  };

  /** Ends all waiting. */
  rest(): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
  }
}
