import type { PlanNews } from "@chronometra/contract";
import { NewsHub } from "./newsHub.ts";

/** What a page says: which plan it shows, or `null` where it shows none any more. */
export type Asked = { readonly project: string; readonly client: string } | null;

const hub = new NewsHub();

/** One worker for all pages of the browser; each has a port of its own. */
(globalThis as unknown as { onconnect: (event: MessageEvent) => void }).onconnect = ({ ports: [port] }) => {
  let leave: () => void = () => undefined;
  port!.onmessage = ({ data }: MessageEvent<Asked>) => {
    leave();
    if (data === null) return;
    const left = hub.join({ ...data, tell: (news: PlanNews) => port!.postMessage(news) });
    leave = left;
    // The page holds the lock as long as it lives: one that ends without a word is missed by that.
    void navigator.locks.request(data.client, () => left());
  };
};
