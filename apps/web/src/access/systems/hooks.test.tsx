/** @jest-environment jsdom */
import type { HookCalls, Hooks as HookList } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, show } from "../../testing/fakePage.tsx";
import { Hooks } from "./Hooks.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const HOOK: HookList[number] = {
  ...{ id: "h1", name: "Ledger", url: "https://ledger.example/hooks", group: null, takenAt: null },
  ...{ events: ["planChanged", "periodIssued"], madeAt: "2026-01-02T09:00:00.000Z", waiting: 2, failed: 1 },
};
const call = (rest: Partial<HookCalls[number]>): HookCalls[number] => ({
  ...{ id: "c1", event: "periodIssued", project: "LG-01", madeAt: "2026-01-02T09:00:00.000Z", state: "waiting" },
  ...{ tries: 0, nextAt: "2026-01-02T10:00:00.000Z", takenAt: null, why: null },
  ...rest,
});

const house = (hooks: HookList, calls: HookCalls, made: unknown = { ok: true }) =>
  listen(({ to }) => {
    if (to === "GET /api/webhooks") return hooks;
    if (to === "GET /api/accounts") return { accounts: [], groups: [], people: [] };
    return to.startsWith("GET") ? calls : made;
  });

describe("webhooks", () => {
  it("say what they are told of, and how their calls stand", async () => {
    house([HOOK], []);
    show(<Hooks />);
    expect((await screen.findByText("Ledger")).closest("li")!.textContent).toMatch(
      /^Ledger is told when a plan changed or figures of a period were issued, of the whole housenothing taken yet, 2 waiting, 1 given up · https:/,
    );
  });

  it("show the fate of each call, and make again what waits or was given up", async () => {
    const sent = house(
      [HOOK],
      [
        call({ id: "new" }),
        call({ id: "late", tries: 2, why: "it answered 500" }),
        call({ id: "lost", state: "failed", tries: 30, why: "it did not answer in time" }),
        call({ id: "done", event: "trial", project: null, state: "taken", tries: 3, takenAt: "2026-01-02T10:00:00Z" }),
      ],
    );
    show(<Hooks />);
    await userEvent.click(await screen.findByRole("button", { name: "Calls to Ledger" }));
    const lines = within(await screen.findByRole("list", { name: "Calls" })).getAllByRole("listitem");
    const [waits, late, lost, done] = lines.map(({ textContent }) => textContent);
    expect(waits).toMatch(/^figures of a period were issued in LG-01.*waits until [^,]*, \d\d:\d\d$/);
    expect(late).toMatch(/waits until .*, tried 2 times: it answered 500Call again now$/);
    expect(lost).toMatch(/given up, tried 30 times: it did not answer in timeCall again now$/);
    expect(done).toMatch(/^a trial.*taken .*, at try 3$/);
    await userEvent.click(within(lines[2]!).getByRole("button"));
    await waitFor(() => expect(sent.map(({ to }) => to)).toContain("POST /api/webhooks/h1/calls/lost/again"));
  });

  it("are made once their address can be called and something is to be told; the secret is told once", async () => {
    const sent = house([], [], { id: "h2", secret: "whsec_x" });
    show(<Hooks />);
    const form = within(screen.getByRole("form", { name: "A new webhook" }));
    await userEvent.type(form.getByLabelText("Which system is called"), "Ledger");
    await userEvent.type(form.getByLabelText("Address that is called"), "ledger");
    expect(form.getByText(/Write the whole address/)).toBeTruthy();
    await userEvent.clear(form.getByLabelText("Address that is called"));
    await userEvent.type(form.getByLabelText("Address that is called"), "https://ledger.example/");
    expect(form.getByText("Select what it is told of.")).toBeTruthy();
    await userEvent.click(form.getByRole("checkbox", { name: "a baseline was approved" }));
    await userEvent.click(form.getByRole("button", { name: "Make a webhook" }));
    expect((await screen.findByText(/told this once/)).textContent).toContain("whsec_x");
    expect(sent.find(({ to }) => to === "POST /api/webhooks")!.body).toEqual({
      ...{ name: "Ledger", url: "https://ledger.example/", events: ["baselineApproved"], group: null },
    });
  });
});
