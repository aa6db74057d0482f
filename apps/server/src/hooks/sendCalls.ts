import type { Logger } from "pino";
import { Webhook } from "standardwebhooks";
import type { DataSource } from "typeorm";
import { MOST_TRIES, pauseAfter } from "../shared/pauses.ts";
import { HookCallEntity, HookEntity } from "./hookEntities.ts";

/** How long a receiver may keep silent. */
const PATIENCE_MILLISECONDS = 10_000;
/** How long a server has a call to itself. Whoever takes longer has stopped, and the call is made again. */
const HELD_MILLISECONDS = 60_000;
/** That a receiver is gone and wants no more (RFC 9110, 15.5.11). */
const GONE = 410;
const KEPT_DAYS = 30;

/** Why a receiver that could not be reached was not, as far as that can be told. */
function unreachedWords(error: unknown): string {
  const { name, message, cause } = error as Error;
  if (name === "TimeoutError") return "it did not answer in time";
  return (cause as Error | undefined)?.message || message;
}

export interface SenderOptions {
  readonly patienceMilliseconds?: number | undefined;
}

/**
 * Calls other systems: one call after the other for each, so that one that is slow or away holds up nobody else. A call
 * is made until it is taken; one whose server stopped while it was made is made again, so that a receiver may have it
 * twice, under the same id.
 */
export class HookSender {
  private readonly lanes = new Map<string, Promise<void>>();
  private readonly ending = new AbortController();

  constructor(
    private readonly database: DataSource,
    private readonly logger: Logger,
    private readonly options: SenderOptions = {},
  ) {}

  /** Begins to make what is due; what is under way goes on. */
  async begin(now = Date.now()): Promise<void> {
    await this.database.query(
      "update webhook_call set state = 'waiting', next_at = ? where state = 'sending' and next_at < ?",
      [now, now],
    );
    const due = (await this.database.query(
      "select distinct webhook_id as id from webhook_call where state = 'waiting' and next_at <= ?",
      [now],
    )) as { id: string }[];
    for (const { id } of due)
      if (!this.lanes.has(id))
        this.lanes.set(
          id,
          this.lane(id, now)
            .catch((error: unknown) => this.logger.error(error))
            .finally(() => this.lanes.delete(id)),
        );
  }

  /** Once nothing is under way any more. */
  async idle(): Promise<void> {
    while (this.lanes.size > 0) await Promise.all(this.lanes.values());
  }

  /** Ends what is under way; it is made again later. */
  close(): void {
    this.ending.abort();
  }

  /** Makes the calls to one system that are due, the oldest first. */
  private async lane(hookId: string, now: number): Promise<void> {
    const hook = await this.database.getRepository(HookEntity).findOneBy({ id: hookId });
    if (hook === null) return;
    const due = (await this.database.query(
      "select id from webhook_call where webhook_id = ? and state = 'waiting' and next_at <= ? order by made_at, id",
      [hookId, now],
    )) as { id: string }[];
    for (const { id } of due) {
      if (this.ending.signal.aborted) return;
      const taken = (await this.database.query(
        "update webhook_call set state = 'sending', tries = tries + 1, next_at = ? where id = ? and state = 'waiting'",
        [Date.now() + HELD_MILLISECONDS, id],
      )) as { affectedRows: number };
      if (taken.affectedRows === 1) await this.make(hook, id);
    }
  }

  private async make(hook: HookEntity, id: string): Promise<void> {
    const calls = this.database.getRepository(HookCallEntity);
    // Read once it is held: until then changes of a plan are gathered in it.
    const call = await calls.findOneBy({ id });
    if (call === null) return;
    const { why, isFinal } = await this.answerTo(hook, call);
    if (why === null) await calls.update({ id, state: "sending" }, { state: "taken", takenAt: new Date(), why });
    else
      await calls.update(
        { id, state: "sending" },
        isFinal || call.tries >= MOST_TRIES
          ? { state: "failed", why: why.slice(0, 500) }
          : { state: "waiting", why: why.slice(0, 500), nextAt: String(Date.now() + pauseAfter(call.tries)) },
      );
  }

  /** What stood against a call, `null` where it was taken; final, where it is of no use to make it again. */
  private async answerTo(
    { url, secret }: HookEntity,
    { id, body }: HookCallEntity,
  ): Promise<{ why: string | null; isFinal: boolean }> {
    const at = new Date();
    try {
      const answer = await fetch(url, {
        method: "POST",
        body,
        // Standard Webhooks: what is signed is the id, the second and the body.
        headers: {
          "content-type": "application/json",
          "user-agent": "Chronometra",
          "webhook-id": id,
          "webhook-timestamp": String(Math.floor(at.getTime() / 1000)),
          "webhook-signature": new Webhook(secret).sign(id, at, body),
        },
        redirect: "manual",
        signal: AbortSignal.any([
          this.ending.signal,
          AbortSignal.timeout(this.options.patienceMilliseconds ?? PATIENCE_MILLISECONDS),
        ]),
      });
      await answer.body?.cancel();
      if (answer.ok) return { why: null, isFinal: false };
      return { why: `it answered ${answer.status} ${answer.statusText}`.trim(), isFinal: answer.status === GONE };
    } catch (error) {
      return { why: unreachedWords(error), isFinal: false };
    }
  }
}

/** Removes calls that were settled long ago. */
export async function sweepCalls(database: DataSource): Promise<void> {
  await database.query(
    `delete from webhook_call where state in ('taken', 'failed') and made_at < now() - interval ${KEPT_DAYS} day`,
  );
}
