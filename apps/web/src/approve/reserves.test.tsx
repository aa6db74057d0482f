/** @jest-environment jsdom */
import type { Reserves, WhatIfView } from "@chronometra/contract";
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../shared/messages/toast.ts";
import { listen, Refusal, show, type Sent } from "../testing/fakePage.tsx";
import { ReservesPart } from "./ReservesPart.tsx";
import { PutForward } from "./whatIf/PutForward.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const RESERVES = {
  currency: "KWD",
  minorDigits: 3,
  mayEdit: true,
  balances: { contingency: 5_000_000, management: 0 },
  entries: [
    {
      id: "e1",
      kind: "contingency",
      amountMinor: 6_000_000,
      reason: "as agreed",
      by: "Cora",
      at: "2026-03-01T10:00:00.000Z",
    },
    {
      id: "e2",
      kind: "contingency",
      amountMinor: -1_000_000,
      reason: "rock",
      by: "Mo",
      at: "2026-03-02T10:00:00.000Z",
    },
  ],
} as unknown as Reserves;
const server = (reserves: Reserves, act: (sent: Sent) => unknown = () => reserves) => {
  const all = listen((sent) => (sent.to.startsWith("GET") ? reserves : act(sent)));
  return () => all.filter(({ to }) => to.startsWith("POST"));
};

describe("reserves", () => {
  it("tell what is left and every draw", async () => {
    server({ ...RESERVES, mayEdit: false });
    show(<ReservesPart project="p" />);
    expect(await screen.findByText(/^set aside/)).toBeTruthy();
    expect(screen.getByText(/^drawn/).className).toContain("adverse");
    expect(screen.queryByRole("button", { name: "Enter" })).toBeNull();
  });

  it("are drawn on with an amount in the digits of the currency, and what for", async () => {
    const sent = server(RESERVES);
    show(<ReservesPart project="p" />);
    await userEvent.selectOptions(await screen.findByLabelText("Set aside or draw"), "Draw");
    await userEvent.type(screen.getByLabelText("Amount in KWD"), "1200.125");
    const enter = screen.getByRole<HTMLButtonElement>("button", { name: "Enter" });
    expect(enter.disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("What for"), "more rock");
    await userEvent.click(enter);
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(sent()[0]).toMatchObject({
      to: "POST /api/projects/p/reserves",
      body: { kind: "contingency", amountMinor: -1_200_125, reason: "more rock" },
    });
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>("Amount in KWD").value).toBe(""));
  });

  it.each(["0", "-5", "1.0005", "much"])("take no amount of %s", async (text) => {
    server(RESERVES);
    show(<ReservesPart project="p" />);
    const field = await screen.findByLabelText<HTMLInputElement>("Amount in KWD");
    await userEvent.type(field, text);
    await userEvent.type(screen.getByLabelText("What for"), "more rock");
    expect(field.getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Enter" }).disabled).toBe(true);
  });

  it("that hold less than is drawn say so, and keep what was typed", async () => {
    server(RESERVES, () => new Refusal("Only 5 000.000 KWD remain."));
    show(<ReservesPart project="p" />);
    await userEvent.type(await screen.findByLabelText("Amount in KWD"), "9000");
    await userEvent.type(screen.getByLabelText("What for"), "more rock");
    await userEvent.click(screen.getByRole("button", { name: "Enter" }));
    expect(await screen.findByText("Only 5 000.000 KWD remain.")).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>("Amount in KWD").value).toBe("9000");
  });
});

describe("putting a what-if forward", () => {
  const VIEW = {
    whatIf: { id: "w", project: "p", reason: null, currency: "KWD", minorDigits: 3 },
    effect: null,
  } as unknown as WhatIfView;
  const put = () => screen.getByRole<HTMLButtonElement>("button", { name: "Put forward" });

  it("needs a reason, and an amount where a reserve pays", async () => {
    const done = jest.fn();
    const sent = server(RESERVES, () => ({ request: 7 }));
    show(<PutForward view={VIEW} onDone={done} />);
    expect(put().disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("Why the plan is to change"), "rock below");
    expect(put().disabled).toBe(false);
    await userEvent.selectOptions(
      screen.getByLabelText("Paid from"),
      await screen.findByRole("option", { name: /^contingency, / }),
    );
    expect(put().disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("KWD"), "250.500");
    await userEvent.click(put());
    await waitFor(() => expect(done).toHaveBeenCalled());
    expect(sent()[0]!.body).toEqual({ reason: "rock below", draw: { kind: "contingency", amountMinor: 250_500 } });
    expect(toast).toHaveBeenCalledWith("Change request 7 waits for an approver.");
  });

  it("paid from the work's budget draws on nothing, whatever was typed before", async () => {
    const sent = server(RESERVES, () => ({ request: 8 }));
    show(<PutForward view={VIEW} onDone={() => undefined} />);
    await userEvent.type(screen.getByLabelText("Why the plan is to change"), "rock below");
    await userEvent.selectOptions(screen.getByLabelText("Paid from"), "contingency");
    await userEvent.type(screen.getByLabelText("KWD"), "250.5");
    await userEvent.selectOptions(screen.getByLabelText("Paid from"), "");
    await userEvent.click(put());
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(sent()[0]!.body).toEqual({ reason: "rock below" });
  });
});
