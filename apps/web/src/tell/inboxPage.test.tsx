/** @jest-environment jsdom */
import type { Inbox, Notice } from "@chronometra/contract";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { InboxPage } from "./InboxPage.tsx";

const calls: [string, { body?: { ids: string[]; seen: boolean } }][] = [];
let notices: Notice[] = [];
let refused: string | null = null;
jest.mock("../shared/session/api.ts", () => ({
  call: (key: string, request: { body?: { ids: string[]; seen: boolean } } = {}) => {
    if (key === "GET /api/inbox") return Promise.resolve({ notices, open: 0 } satisfies Inbox);
    if (refused !== null) return Promise.reject(new Error(refused));
    calls.push([key, request]);
    notices = notices.map((each) =>
      request.body!.ids.includes(each.id) ? { ...each, seen: request.body!.seen } : each,
    );
    return Promise.resolve({ ok: true });
  },
}));
const toasts: string[] = [];
jest.mock("../shared/messages/toast.ts", () => ({
  toast: Object.assign((words: string) => toasts.push(words), { error: (words: string) => toasts.push(words) }),
}));

const notice = (id: string, over: Partial<Notice> = {}): Notice => ({
  ...{ id, kind: "moved", subject: `Subject ${id}`, body: "Dig: 2 Mar → 3 Mar", at: "2026-11-27T15:00:00.000Z" },
  ...{ from: null, link: "/desk", act: "Open", waits: false, seen: false, settledAt: null },
  ...over,
});

beforeEach(() => {
  calls.length = toasts.length = 0;
  refused = null;
  notices = [
    notice("a", { kind: "asked", act: "Decide", waits: true, from: "Tomas" }),
    notice("b"),
    notice("c", { kind: "asked", settledAt: "2026-11-27T16:00:00.000Z" }),
  ];
});

const show = async (): Promise<void> => {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={["/inbox"]}>
        <InboxPage />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  await screen.findByText(notices.length === 0 ? /^Nothing yet/ : "Subject b");
};
const part = (name: string) => within(screen.getByRole("region", { name }));

describe("the inbox", () => {
  it("has what waits first, then what is new, then what was, by day", async () => {
    await show();
    expect(screen.getAllByRole("region").map((each) => each.getAttribute("aria-label"))).toEqual([
      "Waits for you",
      "New",
      "27 Nov 2026",
    ]);
    expect(part("Waits for you").getByRole("link", { name: "Decide" }).getAttribute("href")).toBe("/desk");
    expect(part("27 Nov 2026").getByText("✓ done")).toBeTruthy();
  });

  it("notes all that is new as seen, but not what waits", async () => {
    await show();
    await userEvent.click(screen.getByRole("button", { name: "All new is seen" }));
    expect(calls).toEqual([["PUT /api/inbox/seen", { body: { ids: ["b"], seen: true } }]]);
    expect(toasts).toEqual(["1 thing noted as seen. What waits for you stays."]);
    expect(screen.queryByRole("region", { name: "New" })).toBeNull();
    expect(part("Waits for you").getByText("Subject a")).toBeTruthy();
  });

  it("notes what is opened as seen, but keeps what waits until it is done or put aside", async () => {
    await show();
    await userEvent.click(part("Waits for you").getByRole("link", { name: "Decide" }));
    expect(calls).toEqual([]);
    await userEvent.click(part("New").getByRole("link", { name: "Open" }));
    expect(calls.map(([, { body }]) => body!.ids)).toEqual([["b"]]);
    await userEvent.click(part("Waits for you").getByRole("button", { name: "Put aside" }));
    expect(toasts).toEqual(["“Subject a” is put aside."]);
  });

  it("says where something could not be stored, and leaves it as it was", async () => {
    refused = "The database is away.";
    await show();
    await userEvent.click(part("New").getByRole("button", { name: "Seen" }));
    expect(toasts).toEqual(["Not stored: The database is away."]);
    expect(part("New").getByText("Subject b")).toBeTruthy();
  });

  it("is found in and sorted by what it is; with nothing, says what will arrive", async () => {
    await show();
    await userEvent.type(screen.getByLabelText("Find in the inbox"), "tomas");
    expect(screen.getAllByRole("listitem").length).toBe(1);
    await userEvent.clear(screen.getByLabelText("Find in the inbox"));
    await userEvent.selectOptions(screen.getByLabelText("What it is"), "moved");
    expect(screen.getAllByRole("listitem").map((each) => each.getAttribute("aria-label"))).toEqual(["Subject b"]);
    notices = [];
    cleanup();
    await show();
    expect(screen.getByText(/^Nothing yet\. What is asked of you/)).toBeTruthy();
  });
});
