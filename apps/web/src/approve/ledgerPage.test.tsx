/** @jest-environment jsdom */
import type { Approval, Ledger } from "@chronometra/contract";
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, show } from "../testing/fakePage.tsx";
import { LedgerPage } from "./LedgerPage.tsx";

jest.mock("./PlanState.tsx", () => ({ PlanState: () => <p>state</p> }));
jest.mock("./ReservesPart.tsx", () => ({ ReservesPart: () => null }));

const ASKED = {
  ...{ id: "a1", project: "p", projectName: "Pier", projectCode: "P", state: "asked", askedBy: "Tomas", word: "" },
  ...{ askedAt: "2026-11-20T09:00:00Z", agreedOn: "2026-02-20", decidedBy: null, decidedAt: null, reason: null },
  ...{ baseline: null, mayDecide: true, changedSince: 0 },
} satisfies Approval;
const open = (ledger: Partial<Ledger>) => {
  const sent = listen(({ to }) =>
    to.endsWith("/ledger")
      ? { currency: "EUR", minorDigits: 2, mayAsk: true, approvals: [], baselines: [], ...ledger }
      : to.endsWith("/whatifs")
        ? []
        : ASKED,
  );
  show(<LedgerPage />, { project: { id: "p" } });
  return sent;
};

describe("the first plan of a project", () => {
  it("is asked for as it is approved here, or with the day on which it was approved before", async () => {
    const sent = open({});
    await userEvent.click(await screen.findByRole("checkbox", { name: /^It runs already/ }));
    const ask = screen.getByRole<HTMLButtonElement>("button", { name: "Ask for approval" });
    expect(ask.disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("Approved on"), "20 Feb 2026{Enter}");
    expect(ask.disabled).toBe(false);
    await userEvent.click(ask);
    await waitFor(() =>
      expect(sent.find(({ to }) => to.startsWith("POST"))?.body).toEqual({ word: "", agreedOn: "2026-02-20" }),
    );
  });

  it("is not asked for with a day still to come", async () => {
    open({});
    await userEvent.click(await screen.findByRole("checkbox", { name: /^It runs already/ }));
    await userEvent.type(screen.getByLabelText("Approved on"), "20 Feb 2099{Enter}");
    expect(screen.getByRole("alert").textContent).toMatch(/at the latest/);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Ask for approval" }).disabled).toBe(true);
  });

  it("tells the approver what day the baseline will bear", async () => {
    open({ mayAsk: false, approvals: [ASKED] });
    expect(await screen.findByText(/Tomas says that it was approved on 20 Feb 2026, before it came here/)).toBeTruthy();
  });

  it("later ones are approved here", async () => {
    const line = { number: 1, approvedOn: "2026-02-20", approvedBy: "Margit", reason: "agreed", digest: "abc" };
    const rest = { activities: 1, budgetMinor: 100, start: null, finish: null, how: "first" as const, request: null };
    open({ baselines: [{ ...line, ...rest }] as never });
    expect(await screen.findByRole("button", { name: "Ask for approval" })).toBeTruthy();
    expect(screen.queryByRole("checkbox", { name: /^It runs already/ })).toBeNull();
  });
});
