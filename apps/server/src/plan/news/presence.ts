import { randomUUID } from "node:crypto";
import { LessThan, type DataSource } from "typeorm";
import { PresenceEntity } from "./presenceEntity.ts";

/** A page that has not been heard of for so long is gone. */
export const GONE_MILLISECONDS = 40_000;

/**
 * How long a page that only says where it stands is believed before its stream is there: it may have been closed in
 * that moment.
 */
const BELIEVED_MILLISECONDS = 5_000;

/** A page that has a plan open. */
export interface OpenPage {
  readonly project: string;
  readonly client: string;
}

/** Notes where on a plan a page stands; that it is there at all is for its stream to say. */
export async function notePresence(
  database: DataSource,
  projectId: string,
  accountId: string,
  client: string,
  activityId: string | null,
): Promise<void> {
  await database.query(
    "insert into presence (project_id, client, account_id, activity_id, seen_at) values (?, ?, ?, ?, ?) on duplicate key update account_id = values(account_id), activity_id = values(activity_id), seen_at = greatest(seen_at, values(seen_at))",
    [projectId, client, accountId, activityId, Date.now() - GONE_MILLISECONDS + BELIEVED_MILLISECONDS],
  );
}

/** Takes away pages that are long gone. */
export const sweepPresence = async (database: DataSource): Promise<void> =>
  void (await database
    .getRepository(PresenceEntity)
    .delete({ seenAt: LessThan(String(Date.now() - GONE_MILLISECONDS)) }));

/**
 * The pages of one stream, which are on their plans as long as it lasts. A browser that opens or leaves a page opens a
 * stream anew, perhaps to another server, and ends the one before: what the later one has taken, the earlier one leaves
 * there.
 */
export class HeldPresence {
  private readonly stream = randomUUID();

  constructor(
    private readonly database: DataSource,
    private readonly accountId: string,
    private readonly pages: readonly OpenPage[],
  ) {}

  /** Notes that they are there, and takes over what an earlier stream of the same pages held. */
  async take(): Promise<void> {
    const rows = this.pages.flatMap(({ project, client }) => [
      project,
      client,
      this.accountId,
      Date.now(),
      this.stream,
    ]);
    await this.database.query(
      `insert into presence (project_id, client, account_id, seen_at, stream) values ${this.pages.map(() => "(?, ?, ?, ?, ?)").join(", ")} on duplicate key update account_id = values(account_id), seen_at = values(seen_at), stream = values(stream)`,
      rows,
    );
  }

  /** They are still there. */
  async beat(): Promise<void> {
    await this.database.getRepository(PresenceEntity).update({ stream: this.stream }, { seenAt: String(Date.now()) });
  }

  /** The stream has ended, and with it the pages that no later one has taken. */
  async letGo(): Promise<void> {
    await this.database.getRepository(PresenceEntity).delete({ stream: this.stream });
  }
}
