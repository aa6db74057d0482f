import type { PlanNews } from "@chronometra/contract";
import { addressOf } from "../../../shared/session/api.ts";
import { pauseAfter } from "../session/reach.ts";

/** A page that shows a plan and wants to hear of it. */
export interface Hearer {
  readonly project: string;
  /** Names the page. */
  readonly client: string;
  readonly tell: (news: PlanNews) => void;
}

/** What of an event source is used. */
export type Stream = Pick<EventSource, "close" | "onopen" | "onmessage" | "onerror" | "readyState">;

/** Pages come and go together, as when a window is brought to the front. */
const GATHERING_MILLISECONDS = 50;
/** `EventSource.CLOSED`: it has given up, as where a proxy answers for a server that restarts. */
const CLOSED = 2;

/**
 * One stream for all pages of a browser, which has some six connections to a server and needs them for other things.
 * When a page comes or goes the stream is opened anew, and the one before ends once that has begun, so that nothing is
 * missed.
 */
export class NewsHub {
  private readonly hearers = new Set<Hearer>();
  /** The stream that tells the pages. */
  private telling: Stream | null = null;
  /** The one that is to tell them instead, until it has begun. */
  private coming: Stream | null = null;
  private tries = 0;
  private timer: ReturnType<typeof setTimeout> | null = null;

  /** @param open opens a stream at an address */
  constructor(private readonly open: (address: string) => Stream = (address) => new EventSource(address)) {}

  /** Tells a page of its plan from now on; gives what ends it. */
  join(hearer: Hearer): () => void {
    this.hearers.add(hearer);
    this.openIn(GATHERING_MILLISECONDS);
    return () => {
      if (this.hearers.delete(hearer)) this.openIn(GATHERING_MILLISECONDS);
    };
  }

  private openIn(milliseconds: number): void {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = setTimeout(() => this.openAnew(), milliseconds);
  }

  private openAnew(): void {
    this.timer = null;
    this.coming?.close();
    this.coming = null;
    if (this.hearers.size === 0) {
      this.telling?.close();
      this.telling = null;
      return;
    }
    const on = [...this.hearers].map(({ project, client }) => `on=${encodeURIComponent(`${project}.${client}`)}`);
    const stream = this.open(`${addressOf("GET /api/news")}?${on.join("&")}`);
    this.coming = stream;
    stream.onopen = () => {
      this.tries = 0;
      // One that was cut off and comes back by itself is the same.
      if (this.coming !== stream) return;
      this.telling?.close();
      [this.telling, this.coming] = [stream, null];
    };
    stream.onmessage = ({ data }: MessageEvent<string>) => {
      const news = JSON.parse(data) as PlanNews;
      for (const { project, tell } of this.hearers) if (project === news.project) tell(news);
    };
    stream.onerror = () => {
      if (stream.readyState === CLOSED) this.openIn(pauseAfter(++this.tries));
    };
  }
}
