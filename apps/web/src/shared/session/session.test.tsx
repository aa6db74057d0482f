/** @jest-environment jsdom */
import type { SessionView } from "@chronometra/contract";
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../messages/toast.ts";
import { listen, Refusal, someone } from "../../testing/fakePage.tsx";
import { sessionQuery, signedInAs, useLeave, useSignIn, useSignOut } from "./session.ts";

jest.mock("../messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const CORA = someone("controller");
const OTTO = { ...someone("reader"), id: "otto", name: "Otto" };
const session = (me: SessionView["me"]): SessionView => ({ me, preferences: {}, token: "t" });

/** Says who is signed in, and whose session ran out; and does what a page does with it. */
function Probe() {
  const { data } = useQuery(sessionQuery);
  const [signIn, signOut, leave] = [useSignIn(), useSignOut(), useLeave()];
  return (
    <div>
      <output aria-label="session">{`${data?.me?.name ?? "nobody"}, ${data?.ended?.name ?? "nobody"} ended`}</output>
      <button type="button" onClick={() => signIn.mutate({ login: "x", password: "y" })}>
        in
      </button>
      <button type="button" onClick={() => signOut.mutate()}>
        out
      </button>
      <button type="button" onClick={leave}>
        leave
      </button>
    </div>
  );
}

let client: QueryClient;
const says = async (words: string): Promise<void> =>
  waitFor(() => expect(screen.getByLabelText("session").textContent).toBe(words));
function begin(): void {
  client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  client.setQueryData(["portfolio"], "of Cora");
  render(
    <QueryClientProvider client={client}>
      <Probe />
    </QueryClientProvider>,
  );
}

describe("a session", () => {
  it("that ends leaves its pages to whoever it was, and gives them back", async () => {
    let me: SessionView["me"] = CORA;
    listen(({ to }) => (to.startsWith("POST") ? session((me = CORA)) : session(me)));
    begin();
    await says("Cora, nobody ended");
    me = null;
    await client.invalidateQueries({ queryKey: sessionQuery.queryKey });
    await says("nobody, Cora ended");
    expect(signedInAs()).toBeNull();
    expect(client.getQueryData(["portfolio"])).toBe("of Cora");
    await userEvent.click(screen.getByRole("button", { name: "in" }));
    await says("Cora, nobody ended");
    expect(client.getQueryData(["portfolio"])).toBe("of Cora");
  });

  it("that someone else begins forgets all that was fetched for the one before", async () => {
    let me: SessionView["me"] = CORA;
    listen(({ to }) => (to.startsWith("POST") ? session((me = OTTO)) : session(me)));
    begin();
    await says("Cora, nobody ended");
    me = null;
    await client.invalidateQueries({ queryKey: sessionQuery.queryKey });
    await says("nobody, Cora ended");
    await userEvent.click(screen.getByRole("button", { name: "in" }));
    await says("Otto, nobody ended");
    expect(client.getQueryData(["portfolio"])).toBeUndefined();
    expect(signedInAs()).toBe("otto");
  });

  it("that was left is nobody's, and forgets", async () => {
    let me: SessionView["me"] = CORA;
    listen(() => session(me));
    begin();
    await says("Cora, nobody ended");
    me = null;
    await client.invalidateQueries({ queryKey: sessionQuery.queryKey });
    await says("nobody, Cora ended");
    await userEvent.click(screen.getByRole("button", { name: "leave" }));
    await says("nobody, nobody ended");
    expect(client.getQueryData(["portfolio"])).toBeUndefined();
  });

  it("goes on, and says so, where signing out did not reach the server", async () => {
    listen(({ to }) => (to.startsWith("DELETE") ? new Refusal("", 0) : session(CORA)));
    begin();
    await says("Cora, nobody ended");
    await userEvent.click(screen.getByRole("button", { name: "out" }));
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith(expect.stringMatching(/^You are still signed in: /)));
    await says("Cora, nobody ended");
    expect(client.getQueryData(["portfolio"])).toBe("of Cora");
  });

  it("that was signed out leaves nothing behind", async () => {
    let me: SessionView["me"] = CORA;
    listen(({ to }) => (to.startsWith("DELETE") ? ((me = null), { ok: true }) : session(me)));
    begin();
    await says("Cora, nobody ended");
    await userEvent.click(screen.getByRole("button", { name: "out" }));
    await says("nobody, nobody ended");
    expect(client.getQueryData(["portfolio"])).toBeUndefined();
  });
});
