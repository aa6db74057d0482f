import type { PlanNews, Present } from "@chronometra/contract";
import type { Logger } from "pino";
import { In, MoreThan, type DataSource } from "typeorm";
import { accountNames } from "../../access/accounts.ts";
import { ProjectEntity } from "../../project/projectEntity.ts";
import { GONE_MILLISECONDS } from "./presence.ts";
import { PresenceEntity } from "./presenceEntity.ts";

/** How often the database is asked. Another server beside this one may have stored what its callers look at. */
const POLL_MILLISECONDS = 700;

/** A stream that listens, for one page or several. */
export interface Listener {
  readonly tell: (news: PlanNews) => void;
  /** The server stops: nothing will be told any more. */
  readonly end: () => void;
}

interface Watch {
  readonly listeners: Set<Listener>;
  /** What was told last. */
  told: string;
}

/**
 * Tells open pages what happens to the plans they show: a new revision, and who is where. All of it is read from the
 * database, so that it does not matter which server a change came through.
 */
export class PlanNewsDesk {
  private readonly watches = new Map<string, Watch>();
  private timer: NodeJS.Timeout | null = null;
  private asking = false;
  /** Whether something was stored while the database was being asked. */
  private again = false;

  constructor(
    private readonly database: DataSource,
    private readonly logger: Logger,
  ) {}

  /** Tells a listener how things stand, and whenever they change; gives what ends it. */
  watch(project: string, listener: Listener): () => void {
    const watch = this.watches.get(project) ?? { listeners: new Set(), told: "" };
    this.watches.set(project, watch);
    watch.listeners.add(listener);
    // Whoever comes last has heard nothing yet.
    watch.told = "";
    this.timer ??= setInterval(() => this.poke(), POLL_MILLISECONDS);
    this.poke();
    return () => {
      watch.listeners.delete(listener);
      if (watch.listeners.size === 0) this.watches.delete(project);
      if (this.watches.size === 0) this.rest();
    };
  }

  /** Asks the database now: something was stored here. */
  poke(): void {
    // However often it is poked, one question is out at a time, and at most one more will follow.
    if (this.asking) return void (this.again = true);
    this.asking = true;
    this.again = false;
    void this.tell()
      .catch((error: unknown) => this.logger.error(error))
      .then(() => {
        this.asking = false;
        if (this.again) this.poke();
      });
  }

  /** Ends all listening, when the server stops. */
  close(): void {
    this.rest();
    for (const { listeners } of this.watches.values()) for (const { end } of listeners) end();
  }

  private rest(): void {
    if (this.timer !== null) clearInterval(this.timer);
    this.timer = null;
  }

  private async tell(): Promise<void> {
    const ids = [...this.watches.keys()];
    if (ids.length === 0) return;
    const projects = await this.database
      .getRepository(ProjectEntity)
      .find({ select: { id: true, revision: true }, where: { id: In(ids) } });
    const rows = await this.database.getRepository(PresenceEntity).find({
      where: { projectId: In(ids), seenAt: MoreThan(String(Date.now() - GONE_MILLISECONDS)) },
      order: { client: "ASC" },
    });
    const names = rows.length > 0 ? await accountNames(this.database) : new Map<string, string>();
    for (const { id, revision } of projects) {
      const present = rows.flatMap((row): Present[] =>
        row.projectId === id
          ? [{ client: row.client, name: names.get(row.accountId) ?? "someone", activity: row.activityId }]
          : [],
      );
      const news: PlanNews = { project: id, revision, present };
      const text = JSON.stringify(news);
      const watch = this.watches.get(id);
      if (watch === undefined || watch.told === text) continue;
      watch.told = text;
      for (const listener of watch.listeners) listener.tell(news);
    }
  }
}
