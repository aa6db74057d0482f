import type { PlanNews } from "@chronometra/contract";
import { NewsHub } from "./newsHub.ts";
import type { Asked } from "./news.worker.ts";

let ownHub: NewsHub | null = null;

/** Where a browser cannot share a worker between its pages, each has a stream of its own. */
function hearAlone(project: string, client: string, tell: (news: PlanNews) => void): () => void {
  ownHub ??= new NewsHub();
  return ownHub.join({ project, client, tell });
}

/**
 * Hears what others do to a plan, through the one stream that all pages of a browser share.
 * @param client names the page
 * @returns what ends it
 */
export function hearNews(project: string, client: string, tell: (news: PlanNews) => void): () => void {
  if (!("SharedWorker" in globalThis) || navigator.locks === undefined) return hearAlone(project, client, tell);
  const { port } = new SharedWorker(new URL("./news.worker.ts", import.meta.url), { type: "module", name: "news" });
  port.onmessage = ({ data }: MessageEvent<PlanNews>) => tell(data);
  const say = (asked: Asked): void => port.postMessage(asked);
  let end: () => void = () => undefined;
  const until = new Promise<void>((resolve) => (end = resolve));
  void navigator.locks.request(client, () => {
    say({ project, client });
    return until;
  });
  return () => {
    say(null);
    port.close();
    end();
  };
}
