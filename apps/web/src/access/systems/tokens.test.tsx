/** @jest-environment jsdom */
import type { Tokens as TokenList } from "@chronometra/contract";
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show } from "../../testing/fakePage.tsx";
import { Tokens } from "./Tokens.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

HTMLDialogElement.prototype.showModal = function open() {
  this.open = true;
};

const TOKENS: TokenList = [
  {
    id: "t1",
    name: "Ledger",
    purposes: ["readFigures", "sendCosts"],
    group: { id: "g1", name: "Locks" },
    lastDay: "2026-01-31",
    ended: true,
    madeAt: "2026-01-02T09:00:00.000Z",
    usedAt: null,
  },
];
const GROUPS = [{ id: "g1", name: "Locks", parent: null }];

/** Answers for a house with these tokens; making one is answered as given. */
const house = (tokens: TokenList, made: unknown) =>
  listen(({ to }) => {
    if (to === "GET /api/tokens") return tokens;
    if (to === "GET /api/accounts") return { accounts: [], groups: GROUPS, people: [] };
    return made;
  });

const form = () => within(screen.getByRole("form", { name: "A new token" }));

describe("tokens of other systems", () => {
  it("say what they may do, of which group, until when", async () => {
    house(TOKENS, {});
    show(<Tokens />);
    const line = await screen.findByRole("listitem");
    expect(line.textContent).toMatch(
      /^Ledger may read figures and send costs of Locks and below, ended on 31 Jan 2026made .*, never used/,
    );
  });

  it("are revoked once it was asked", async () => {
    const sent = house(TOKENS, { ok: true });
    show(<Tokens />);
    const press = async (name: string) => userEvent.click(await screen.findByRole("button", { name }));
    await press("End the token of Ledger");
    await press("Cancel");
    expect([
      sent.some(({ to }) => to.startsWith("DELETE")),
      screen.queryByRole("button", { name: "Revoke it" }),
    ]).toEqual([false, null]);
    await press("End the token of Ledger");
    await press("Revoke it");
    expect(sent.map(({ to }) => to)).toContain("DELETE /api/tokens/t1");
  });

  it("are made for what is selected, and told once", async () => {
    const sent = house([], { id: "t2", token: "chr_secret" });
    show(<Tokens />);
    expect(await screen.findByText("No other system reads or sends anything yet.")).toBeTruthy();
    const make = form().getByRole<HTMLButtonElement>("button", { name: "Make a token" });
    expect(make.disabled).toBe(true);
    await userEvent.type(form().getByLabelText("Which system"), "Gate clock");
    expect([make.disabled, form().getByText("Select what it may do.")]).toEqual([true, expect.anything()]);
    await userEvent.click(form().getByRole("checkbox", { name: "send costs" }));
    await userEvent.click(form().getByRole("checkbox", { name: "send time" }));
    await userEvent.selectOptions(form().getByLabelText("Of which group"), "Locks");
    await userEvent.type(form().getByLabelText("Last day of the token"), "2027-01-31{Tab}");
    await userEvent.click(make);
    expect((await screen.findByText(/told this once/)).textContent).toBe("The token, told this once: chr_secret");
    expect(sent.find(({ to }) => to === "POST /api/tokens")!.body).toEqual({
      ...{ name: "Gate clock", purposes: ["sendTime", "sendCosts"], group: "g1", lastDay: "2027-01-31" },
    });
    expect(form().getByLabelText<HTMLInputElement>("Which system").value).toBe("");
  });

  it("that are refused say why, and the form stays as it was", async () => {
    house([], new Refusal("The last day of the token has passed already; give a later one, or none.", 422, "invalid"));
    show(<Tokens />);
    await userEvent.type(form().getByLabelText("Which system"), "Gate clock");
    await userEvent.click(form().getByRole("checkbox", { name: "read figures" }));
    await userEvent.click(form().getByRole("button", { name: "Make a token" }));
    expect((await screen.findByRole("alert")).textContent).toContain("has passed already");
    expect(form().getByLabelText<HTMLInputElement>("Which system").value).toBe("Gate clock");
  });
});
