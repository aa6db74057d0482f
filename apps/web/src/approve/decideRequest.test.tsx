/** @jest-environment jsdom */
import type { RequestAlone, WhatIf, WhatIfView } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../shared/messages/toast.ts";
import { listen, Refusal, show, type Sent } from "../testing/fakePage.tsx";
import { DecideRequest } from "./DecideRequest.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const REQUEST = {
  id: "w",
  project: "p",
  projectName: "Pier",
  request: 7,
  reason: "rock below",
  draw: { kind: "contingency", amountMinor: 250_500 },
  currency: "KWD",
  minorDigits: 3,
  mayDecide: true,
  state: "waiting",
} as unknown as WhatIf;
const EFFECT = {
  finish: null,
  activities: [],
  milestones: [],
  deadlines: [],
  cost: null,
  performance: null,
  currency: "KWD",
  minorDigits: 3,
};
const VIEW = {
  whatIf: REQUEST,
  effect: EFFECT,
  fault: null,
  meets: [],
  seen: { plan: 4, whatIf: 2 },
} as unknown as WhatIfView;

interface On {
  readonly view?: Partial<WhatIfView>;
  readonly alone?: Partial<RequestAlone>;
  readonly request?: Partial<WhatIf>;
  readonly decide?: (sent: Sent) => unknown;
}
function open({ view = {}, alone = {}, request = {}, decide }: On = {}) {
  const all = listen((sent) => {
    if (sent.to.startsWith("POST")) return decide?.(sent) ?? { ...REQUEST, state: "approved", baseline: 3 };
    if (sent.to.endsWith("/alone")) return { baseline: 2, fault: null, ...alone };
    if (sent.to.includes("/whatifs/w")) return { ...VIEW, ...view };
    if (sent.to.includes("/compar")) return { rows: [] };
    return null;
  });
  show(<DecideRequest request={{ ...REQUEST, ...request }} />);
  return () => all.flatMap(({ to, body }) => (to === "POST /api/whatifs/w/decision" ? [body] : []));
}
const button = (name: string) => screen.getByRole<HTMLButtonElement>("button", { name });

describe("deciding a change request", () => {
  it("tells why it is asked and what it draws, and takes no word without a reason", async () => {
    open();
    expect(await screen.findByText("“rock below”")).toBeTruthy();
    expect(screen.getByText(/^Draws .* KWD of contingency\.$/)).toBeTruthy();
    await screen.findByRole("group", { name: "What it would do" });
    for (const name of ["Approve the request alone", "Approve the whole plan …", "Send back"])
      expect(button(name).disabled).toBe(true);
    expect(screen.getByText(/Say why first/)).toBeTruthy();
  });

  it("approves the request alone, as it was looked at", async () => {
    const sent = open();
    await userEvent.type(await screen.findByLabelText("Your reason"), "as agreed");
    await userEvent.click(button("Approve the request alone"));
    await waitFor(() => expect(toast).toHaveBeenCalledWith("Applied, and baseline 3 of Pier is frozen."));
    expect(sent()).toEqual([{ decision: "approve", reason: "as agreed", seen: VIEW.seen }]);
  });

  it("asks before all of the plan is approved with it", async () => {
    const sent = open();
    await userEvent.type(await screen.findByLabelText("Your reason"), "as agreed");
    await userEvent.click(button("Approve the whole plan …"));
    const asked = within(await screen.findByRole("dialog", { name: "Approve the whole plan as it stands" }));
    expect(asked.getByText(/This re-baselines Pier/)).toBeTruthy();
    expect(sent()).toEqual([]);
    await userEvent.click(asked.getByRole("button", { name: "Approve the whole plan" }));
    await waitFor(() => expect(sent()).toMatchObject([{ decision: "approveWhole" }]));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("that cannot stand by itself says why, and is approved with the plan or sent back", async () => {
    const sent = open({
      alone: { fault: "It rests on work that is not approved." },
      decide: () => ({ ...REQUEST, state: "sentBack", baseline: null }),
    });
    await userEvent.type(await screen.findByLabelText("Your reason"), "merge it");
    expect(screen.getByText(/It cannot be approved by itself\. It rests on work/)).toBeTruthy();
    expect(button("Approve the request alone").disabled).toBe(true);
    await userEvent.click(button("Send back"));
    await waitFor(() => expect(toast).toHaveBeenCalledWith("Change request 7 was sent back."));
    expect(sent()).toMatchObject([{ decision: "sendBack", reason: "merge it" }]);
  });

  it("of a plan that was never approved is approved with it", async () => {
    const sent = open({ alone: { baseline: null, fault: "The plan has no baseline yet." } });
    await userEvent.type(await screen.findByLabelText("Your reason"), "the first");
    expect(screen.getByText("The plan has no baseline yet.")).toBeTruthy();
    await userEvent.click(button("Approve the plan with it"));
    await waitFor(() => expect(sent()).toMatchObject([{ decision: "approveWhole" }]));
  });

  it("tells what the live plan has changed meanwhile, and what no longer fits", async () => {
    open({
      view: {
        effect: null,
        fault: "There is no activity “dig” any more.",
        meets: [{ what: "the name of Dig" }] as never,
      },
    });
    expect(await screen.findByText("There is no activity “dig” any more.")).toBeTruthy();
    expect(screen.getByText(/has changed the name of Dig meanwhile/)).toBeTruthy();
  });

  it("refused since the plan moved on keeps the reason that was typed", async () => {
    open({ decide: () => new Refusal("The plan is at revision 5 now; look at it again.", 409, "conflict") });
    await userEvent.type(await screen.findByLabelText("Your reason"), "as agreed");
    await userEvent.click(button("Approve the request alone"));
    expect(await screen.findByText("The plan is at revision 5 now; look at it again.")).toBeTruthy();
    expect(screen.getByLabelText<HTMLTextAreaElement>("Your reason").value).toBe("as agreed");
  });

  it("is not decided by whoever put it forward", async () => {
    open({ request: { mayDecide: false } });
    expect(await screen.findByText(/An approver decides this/)).toBeTruthy();
    expect(screen.queryByLabelText("Your reason")).toBeNull();
  });
});
