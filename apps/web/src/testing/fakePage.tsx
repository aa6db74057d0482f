import type { Me, ProjectLook, Role } from "@chronometra/contract";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { configure, render } from "@testing-library/react";
import type { ReactNode } from "react";
import { createMemoryRouter, Outlet, RouterProvider, useLocation } from "react-router";
import { responseOf } from "./response.ts";
import { takePreferences } from "../shared/session/preferences.ts";
import { Shown } from "../shared/session/session.ts";

// On a busy machine a page may take its time.
configure({ asyncUtilTimeout: 5_000 });

/** What a page sent. */
export interface Sent {
  readonly to: string;
  readonly body: unknown;
}

/** An answer that refuses, in the words of the server; of status 0 no answer at all, as without a network. */
export class Refusal {
  constructor(
    readonly message: string,
    readonly status = 422,
    readonly code = "invalid",
  ) {}
}

/** A server that answers as it is told; gives what was sent, as it goes on. */
export function listen(answer: (sent: Sent) => unknown): Sent[] {
  const all: Sent[] = [];
  globalThis.fetch = (async (address: string, { method = "GET", body }: RequestInit = {}) => {
    const sent = { to: `${method} ${address}`, body: typeof body === "string" ? JSON.parse(body) : undefined };
    all.push(sent);
    const said = await answer(sent);
    if (said instanceof Refusal && said.status === 0) throw new TypeError(said.message);
    const [status, text] =
      said instanceof Refusal ? [said.status, { code: said.code, message: said.message }] : [200, said];
    return responseOf(status, text);
  }) as never;
  return all;
}

export const someone = (...roles: Role[]): Me => ({
  id: "me",
  name: "Cora",
  login: "cora",
  roles,
  person: null,
  timeZone: "UTC",
});

const Where = () => {
  const { pathname, search, hash } = useLocation();
  return <output aria-label="address">{`${pathname}${search}${hash}`}</output>;
};

interface Place {
  readonly me?: Me;
  readonly at?: string;
  /** The project within whose frame it is shown. */
  readonly project?: Partial<ProjectLook>;
}

/** Shows something at an address to someone; `address` of the page is told by `screen.getByLabelText("address")`. */
export function show(page: ReactNode, { me = someone("controller"), at = "/", project }: Place = {}): QueryClient {
  takePreferences({}, null);
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const router = createMemoryRouter(
    [
      {
        element: <Outlet context={{ words: {}, ...project }} />,
        children: [
          {
            path: "*",
            element: (
              <>
                {page}
                <Where />
              </>
            ),
          },
        ],
      },
    ],
    { initialEntries: [at] },
  );
  render(
    <QueryClientProvider client={client}>
      <Shown value={me}>
        <RouterProvider router={router} />
      </Shown>
    </QueryClientProvider>,
  );
  return client;
}
