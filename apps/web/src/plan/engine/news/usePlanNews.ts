import type { Present } from "@chronometra/contract";
import { useEffect, useMemo, useRef, useState } from "react";
import { call } from "../../../shared/session/api.ts";
import { hearNews } from "./hearNews.ts";
import type { PlanSession } from "../session/planSession.ts";

const REST_MILLISECONDS = 350;

/**
 * Follows what others do to a plan, as it happens, and tells them where one stands oneself.
 * @param activity the row the keyboard stands on
 * @param listens whether it is the live plan that is worked on
 * @returns the others who have the plan open
 */
export function usePlanNews(
  project: string,
  session: PlanSession,
  activity: string | null,
  listens = true,
): readonly Present[] {
  const client = useRef(crypto.randomUUID().slice(0, 18)).current;
  const [present, setPresent] = useState<readonly Present[]>([]);
  const [seen, setSeen] = useState(document.visibilityState === "visible");
  useEffect(() => {
    const look = (): void => setSeen(document.visibilityState === "visible");
    document.addEventListener("visibilitychange", look);
    return () => document.removeEventListener("visibilitychange", look);
  }, []);
  // Pages that nobody looks at neither hear nor are told of.
  const here = listens && seen;
  useEffect(() => {
    if (!here) return undefined;
    const end = hearNews(project, client, (news) => {
      session.follow(news.revision);
      setPresent(news.present);
    });
    return () => {
      end();
      setPresent([]);
    };
  }, [project, session, client, here]);
  useEffect(() => {
    if (!here) return undefined;
    // Whoever runs down the rows with the arrow keys is told of where they rest. That it could not be told hurts
    // nothing.
    const telling = setTimeout(
      () =>
        void call("PUT /api/projects/:project/presence", { params: { project }, body: { client, activity } }).catch(
          () => undefined,
        ),
      REST_MILLISECONDS,
    );
    return () => clearTimeout(telling);
  }, [project, client, activity, here]);
  return useMemo(() => present.filter((one) => one.client !== client), [present, client]);
}
