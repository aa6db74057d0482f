import type { Query, QueryClient } from "@tanstack/react-query";

/**
 * Has answers asked for once more that were on their way when something changed. The client's own way leaves a first
 * answer alone: it was given before the change, and would be shown until the next one.
 */
export function answersAnew(client: QueryClient): void {
  const overtaken = new Set<Query>();
  client.getQueryCache().subscribe((event) => {
    if (event.type === "removed") overtaken.delete(event.query);
    if (event.type !== "updated") return;
    const { query, action } = event;
    if (action.type === "invalidate" && query.state.data === undefined && query.state.fetchStatus !== "idle")
      overtaken.add(query);
    if (action.type === "success" && overtaken.delete(query))
      void client.invalidateQueries({ queryKey: query.queryKey, exact: true });
  });
}
