import { MutationCache, QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router/dom";
import { answersAnew } from "./shared/session/answersAnew.ts";
import { CallFailed } from "./shared/session/api.ts";
import { Messages } from "./shared/messages/Messages.tsx";
import { sessionQuery } from "./shared/session/session.ts";
import { pages } from "./router.tsx";

/** A session that has run out shows the sign-in page; what was open comes back afterwards. */
const onError = (error: unknown): void => {
  if (error instanceof CallFailed && error.body.code === "signInNeeded")
    void client.invalidateQueries({ queryKey: sessionQuery.queryKey });
};

const client: QueryClient = new QueryClient({
  queryCache: new QueryCache({ onError }),
  mutationCache: new MutationCache({ onError }),
  defaultOptions: {
    queries: {
      retry: (count, error) => count < 2 && error instanceof CallFailed && error.status === 0,
      staleTime: 5_000,
    },
  },
});

answersAnew(client);

/** Shows the pages, beginning with the one whose address stands there. */
export const showPages = (element: HTMLElement): void =>
  createRoot(element).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <RouterProvider router={pages()} />
        <Messages />
      </QueryClientProvider>
    </StrictMode>,
  );
