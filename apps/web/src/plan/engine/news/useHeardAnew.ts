import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { hearNews } from "./hearNews.ts";

/**
 * Fetches what a page shows of a project anew once somebody else has changed it.
 * @param revision the one that the page shows
 */
export function useHeardAnew(project: string, revision: number): void {
  const client = useQueryClient();
  useEffect(
    () =>
      hearNews(project, crypto.randomUUID(), (news) => {
        if (news.revision > revision) void client.invalidateQueries({ queryKey: ["project", project] });
      }),
    [client, project, revision],
  );
}
