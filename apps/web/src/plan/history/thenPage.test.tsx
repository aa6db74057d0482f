/** @jest-environment jsdom */
import type { BackView, OwnPlanActivity, PlanThen } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show, type Sent } from "../../testing/fakePage.tsx";
import { ThenPage } from "./ThenPage.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));
jest.mock("react-router", () => ({ ...jest.requireActual("react-router"), useParams: () => ({ revision: "7" }) }));
jest.mock("../../shared/dialogs/EffectView.tsx", () => ({ EffectView: () => <p>the effect</p> }));

beforeAll(() => {
  globalThis.ResizeObserver = class {
    observe() {}
    disconnect() {}
    unobserve() {}
  } as never;
});

const dig: OwnPlanActivity = {
  ...{
    id: "dig",
    parent: null,
    name: "Dig",
    kind: "work",
    state: "complete",
    start: "2026-03-02",
    finish: "2026-03-06",
  },
  ...{ baselineStart: null, baselineFinish: null, drift: null, percent: 100, deadline: null, deadlineState: null },
  ...{ margin: null, blockedBy: null, people: ["Ann"], own: false },
};
const THEN: PlanThen = {
  ...{ revision: 7, at: "2026-03-03T10:00:00.000Z", by: "Tomas", label: "Moved", newest: 9, name: "Slipway" },
  ...{ dataDate: "2026-03-02", activities: [dig] },
};
const BACK: BackView = { seen: 9, lists: 2, stay: 1, changes: 4, effect: {} as never, why: null };

function open({ then = THEN, back = BACK, mayEdit = true, answer = () => ({ revision: 10 }) as unknown } = {}): Sent[] {
  const sent = listen(({ to }) => (to.startsWith("POST") ? answer() : to.endsWith("/back") ? back : then));
  show(<ThenPage />, { project: { id: "p", mayEdit, words: { complete: "closed out" } } });
  return sent;
}

describe("a plan as it was", () => {
  it("is read: when, who, and what was done then; a row tells what it was", async () => {
    open();
    expect(await screen.findByText(/As it was at revision 7/)).toBeTruthy();
    expect(screen.getByText(/Tomas: Moved/)).toBeTruthy();
    expect(screen.getByRole("link", { name: "Compare with now" }).getAttribute("href")).toBe(
      "/projects/p/compare?from=revision-7&to=plan",
    );
    await userEvent.click(screen.getByRole("button", { name: "Dig" }));
    expect(within(screen.getByRole("complementary", { name: "About Dig" })).getByText("closed out")).toBeTruthy();
  });

  it("is brought back once what that moves was seen, as of what was looked at", async () => {
    const sent = open();
    await userEvent.click(await screen.findByRole("button", { name: "Bring back …" }));
    const dialog = within(screen.getByRole("dialog", { name: "Back to revision 7" }));
    expect(await dialog.findByText(/2 lists of changes were stored since. One of them is time/)).toBeTruthy();
    await userEvent.click(dialog.getByRole("button", { name: "Bring back" }));
    await waitFor(() => expect(sent.find(({ to }) => to.startsWith("POST"))?.body).toEqual({ seen: 9 }));
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/projects/p/plan"));
  });

  it("says why it cannot be brought back, and what stood against it", async () => {
    open({ back: { ...BACK, effect: null, why: "Time is booked on it." } });
    await userEvent.click(await screen.findByRole("button", { name: "Bring back …" }));
    expect(await screen.findByText(/It cannot be brought back. Time is booked on it./)).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Bring back" }).disabled).toBe(true);
  });

  it("stays open where somebody was quicker", async () => {
    open({ answer: () => new Refusal("The plan was changed meanwhile.", 409, "conflict") });
    await userEvent.click(await screen.findByRole("button", { name: "Bring back …" }));
    await userEvent.click(await screen.findByRole("button", { name: "Bring back" }));
    expect(await screen.findByText("The plan was changed meanwhile.")).toBeTruthy();
  });

  it("is only read by whoever may not change the plan, and where it is the newest", async () => {
    open({ mayEdit: false });
    await screen.findByText(/As it was/);
    expect(screen.queryByRole("button", { name: "Bring back …" })).toBeNull();
  });
});
