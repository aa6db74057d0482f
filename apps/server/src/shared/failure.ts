import { ERRORS, type Clash, type ErrorBody, type ErrorCode } from "@chronometra/contract";
import type { Problem } from "@chronometra/core";

/** A failure that the caller is told of, by its code in the contract's catalogue. */
export class Failure extends Error {
  constructor(
    readonly code: ErrorCode,
    message: string = ERRORS[code].words,
    readonly details: { problems?: readonly Problem[]; clashes?: readonly Clash[] } = {},
  ) {
    super(message);
    this.name = "Failure";
  }

  get status(): number {
    return ERRORS[this.code].status;
  }

  get body(): ErrorBody {
    const { problems, clashes } = this.details;
    return { code: this.code, message: this.message, ...(problems && { problems: [...problems] }), ...(clashes && { clashes: [...clashes] }) };
  }
}

/** What is there, or the failure that it is not. */
export function orNotFound<T>(value: T | null | undefined, what: string): T {
  if (value === null || value === undefined) throw new Failure("notFound", `There is no ${what} here; it may have been taken away.`);
  return value;
}
