import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { hearNews } from "./hearNews.ts";

/**
 * Fetches what a page shows of a project anew once somebody else has changed it.
 * @param revision the one that the page shows
 */
export function useHeardAnew(project: string, revision: number): void {
  const client = useQueryClient();
  const shown = useRef(revision);
  shown.current = revision;
  useEffect(
    () =>
      hearNews(project, crypto.randomUUID().slice(0, 18), (news) => {
        if (news.revision > shown.current) void client.invalidateQueries({ queryKey: ["project", project] });
      }),
    [client, project],
  );
}
