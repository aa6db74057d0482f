import { ERRORS, type Clash, type ErrorBody, type ErrorCode } from "@chronometra/contract";
import type { Problem } from "@chronometra/core";

const RETRY_AFTER_SECONDS: Partial<Record<ErrorCode, number>> = { busy: 1, unavailable: 2 };

/** A failure that the caller is told of, by its code in the contract's catalogue. */
export class Failure extends Error {
  constructor(
    readonly code: ErrorCode,
    message: string = ERRORS[code].words,
    readonly details: { problems?: readonly Problem[]; clashes?: readonly Clash[]; retryAfterSeconds?: number } = {},
  ) {
    super(message);
    this.name = "Failure";
  }

  get status(): number {
    return ERRORS[this.code].status;
  }

  /** After how many seconds the same call may go through; `null` where waiting does not help. */
  get retryAfterSeconds(): number | null {
    return this.details.retryAfterSeconds ?? RETRY_AFTER_SECONDS[this.code] ?? null;
  }

  get body(): ErrorBody {
    const { problems, clashes } = this.details;
    return {
      code: this.code,
      message: this.message,
      ...(problems && { problems: [...problems] }),
      ...(clashes && { clashes: [...clashes] }),
    };
  }
}

/** What is there, or the failure that it is not. */
export function orNotFound<T>(value: T | null | undefined, what: string): T {
  if (value === null || value === undefined)
    throw new Failure("notFound", `There is no ${what} here; it may have been removed.`);
  return value;
}
