/** @jest-environment jsdom */
import type { Closing } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show, someone, type Sent } from "../testing/fakePage.tsx";
import { ClosingPage } from "./ClosingPage.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const BEGUN = {
  id: "a",
  name: "Dig",
  state: "inProgress" as const,
  percent: 40,
  finish: "2026-04-10",
  postedMinutes: 600,
  mayPark: false,
};
const IDLE = {
  ...BEGUN,
  id: "b",
  name: "Pour",
  state: "notStarted" as const,
  percent: null,
  postedMinutes: 0,
  mayPark: true,
};
const LEFT: Closing = { closed: null, dataDate: "2026-03-31", activities: [BEGUN, IDLE], first: [] };
const CLOSED: Closing = {
  closed: { by: "Cora", at: "2026-04-01T10:00:00.000Z", word: "handed over", ended: 2 },
  dataDate: "2026-03-31",
  activities: [],
  first: [],
};
const PROJECT = { id: "p", name: "Pier", mayEdit: true };

const server = (closing: Closing, act: (sent: Sent) => unknown = () => ({ revision: 2 })) =>
  listen((sent) => (sent.to.startsWith("GET") ? closing : act(sent)));
const close = () => screen.getByRole<HTMLButtonElement>("button", { name: "Close the project" });
const fateOf = (name: string) => screen.getByLabelText<HTMLSelectElement>(`What becomes of ${name}`);

describe("closing a project", () => {
  it("asks what becomes of all that remains; what counts already is not parked", async () => {
    server(LEFT);
    show(<ClosingPage />, { project: PROJECT });
    await screen.findByText("2 activities remain");
    expect(fateOf("Dig").value).toBe("done");
    expect(fateOf("Pour").value).toBe("parked");
    expect(within(fateOf("Dig")).queryByRole("option", { name: "parked" })).toBeNull();
    expect(screen.getByText("begun, 40%")).toBeTruthy();
    expect(screen.getByText("not begun")).toBeTruthy();
  });

  it("says one fate for all that may have it, and sends each with its own", async () => {
    const sent = server(LEFT);
    show(<ClosingPage />, { project: PROJECT });
    await screen.findByText("2 activities remain");
    await userEvent.click(screen.getByRole("button", { name: "dropped as it is" }));
    expect([fateOf("Dig").value, fateOf("Pour").value]).toEqual(["dropped", "dropped"]);
    await userEvent.click(screen.getByRole("button", { name: "parked" }));
    expect([fateOf("Dig").value, fateOf("Pour").value]).toEqual(["dropped", "parked"]);
    expect(close().disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("Why it is closed"), "called off");
    await userEvent.click(close());
    await waitFor(() => expect(sent.some(({ to }) => to === "POST /api/projects/p/closing")).toBe(true));
    expect(sent.find(({ to }) => to.startsWith("POST"))!.body).toEqual({
      word: "called off",
      activities: { a: "dropped", b: "parked" },
    });
  });

  it("waits for what is to be settled first", async () => {
    server({ ...LEFT, first: ["2 reports wait for a decision."] });
    show(<ClosingPage />, { project: PROJECT });
    await screen.findByText("2 reports wait for a decision.");
    await userEvent.type(screen.getByLabelText("Why it is closed"), "called off");
    expect(close().disabled).toBe(true);
  });

  it("with nothing left needs a word alone, and tells why it was refused", async () => {
    server({ ...LEFT, activities: [] }, () => new Refusal("A report came in meanwhile."));
    show(<ClosingPage />, { project: PROJECT });
    await screen.findByText("Nothing remains");
    await userEvent.type(screen.getByLabelText("Why it is closed"), "handed over");
    await userEvent.click(close());
    expect(await screen.findByText("A report came in meanwhile.")).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>("Why it is closed").value).toBe("handed over");
  });

  it("is the manager's and the controller's", async () => {
    server(LEFT);
    show(<ClosingPage />, { project: { ...PROJECT, mayEdit: false } });
    await screen.findByText(/Only the project’s manager or a controller closes it/);
    expect(screen.queryByRole("button", { name: "Close the project" })).toBeNull();
  });

  it("is taken back by a controller, with a reason", async () => {
    const sent = server(CLOSED);
    show(<ClosingPage />, { project: PROJECT });
    await screen.findByText(/Cora closed this project on/);
    const again = screen.getByRole<HTMLButtonElement>("button", { name: "Open it again" });
    expect(again.disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("Why it is opened again"), "a claim came");
    await userEvent.click(again);
    await waitFor(() =>
      expect(sent.find(({ to }) => to.startsWith("DELETE"))?.body).toEqual({ reason: "a claim came" }),
    );
  });

  it("is not taken back by a manager", async () => {
    server(CLOSED);
    show(<ClosingPage />, { project: PROJECT, me: someone("projectManager") });
    await screen.findByText(/they stand as before/);
    expect(screen.queryByRole("button", { name: "Open it again" })).toBeNull();
  });
});
