import type { PlanNews, Present } from "@chronometra/contract";
import { useEffect, useMemo, useRef, useState } from "react";
import { addressOf, call } from "../../shared/api.ts";
import type { PlanSession } from "./planSession.ts";

const REST_MILLISECONDS = 350;

/**
 * Follows what others do to a plan, as it happens, and tells them where one stands oneself.
 * @param activity the row the keyboard stands on
 * @param listens whether it is the live plan that is worked on
 * @returns the others who have the plan open
 */
export function usePlanNews(project: string, session: PlanSession, activity: string | null, listens = true): readonly Present[] {
  const client = useRef(crypto.randomUUID().slice(0, 18)).current;
  const [present, setPresent] = useState<readonly Present[]>([]);
  useEffect(() => {
    if (!listens) return undefined;
    let stream: EventSource | null = null;
    // A browser has some six connections to a server: pages that nobody looks at leave them to those that somebody does.
    const listen = (): void => {
      stream?.close();
      stream = null;
      if (document.visibilityState === "hidden") return setPresent([]);
      stream = new EventSource(`${addressOf("GET /api/projects/:project/stream", { project })}?client=${client}`);
      stream.onmessage = ({ data }: MessageEvent<string>) => {
        const news = JSON.parse(data) as PlanNews;
        session.follow(news.revision);
        setPresent(news.present);
      };
    };
    listen();
    document.addEventListener("visibilitychange", listen);
    return () => {
      document.removeEventListener("visibilitychange", listen);
      stream?.close();
    };
  }, [project, session, client, listens]);
  useEffect(() => {
    if (!listens) return undefined;
    // Whoever runs down the rows with the arrow keys is told of where they rest. That it could not be told hurts nothing.
    const telling = setTimeout(() => void call("PUT /api/projects/:project/presence", { params: { project }, body: { client, activity } }).catch(() => undefined), REST_MILLISECONDS);
    return () => clearTimeout(telling);
  }, [project, client, activity, listens]);
  return useMemo(() => present.filter((one) => one.client !== client), [present, client]);
}
