/** @jest-environment jsdom */
import { act, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show } from "../testing/fakePage.tsx";
import { Accounts } from "./Accounts.tsx";
import { useSignIn } from "../shared/session/session.ts";
import { showWayIn } from "./first.tsx";
import { SignInForm } from "./SignIn.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const Asked = ({ login }: { login?: string }) => (
  <SignInForm signIn={useSignIn()} {...(login === undefined ? {} : { login })} />
);

describe("signing in", () => {
  it("says what is missing, beside its field, and sends nothing", async () => {
    const sent = listen(() => ({}));
    show(<Asked />);
    await userEvent.click(screen.getByRole("button", { name: "Sign in" }));
    expect([screen.getByText("Give the name you sign in with."), screen.getByText("Give your password.")]).toHaveLength(
      2,
    );
    await userEvent.type(screen.getByLabelText(/^Name/), "ines{Enter}");
    expect(screen.queryByText("Give the name you sign in with.")).toBeNull();
    expect(sent).toEqual([]);
  });

  it("sends what stands in its fields; refused, it says why and keeps the name", async () => {
    const sent = listen(() => new Refusal("Name and password do not belong together.", 401, "wrongSignIn"));
    show(<Asked />);
    await userEvent.type(screen.getByLabelText(/^Name/), "ines");
    await userEvent.type(screen.getByLabelText(/^Password/), "guessed{Enter}");
    expect((await screen.findByRole("alert")).textContent).toContain("do not belong together");
    expect(sent).toEqual([{ to: "POST /api/session", body: { login: "ines", password: "guessed" } }]);
    expect(screen.getByLabelText<HTMLInputElement>(/^Name/).value).toBe("ines");
  });

  it("again, the name stands there and cannot be another", async () => {
    const sent = listen(() => new Refusal("No.", 401, "wrongSignIn"));
    show(<Asked login="ines" />);
    const name = screen.getByLabelText<HTMLInputElement>(/^Name/);
    expect([name.value, name.readOnly]).toEqual(["ines", true]);
    await userEvent.type(screen.getByLabelText(/^Password/), "x{Enter}");
    await screen.findByRole("alert");
    expect(sent[0]!.body).toEqual({ login: "ines", password: "x" });
  });
});

describe("the way in before there are pages", () => {
  it("tells that someone types, says what was refused, and gives who came in", async () => {
    let tries = 0;
    listen(() =>
      ++tries === 1
        ? new Refusal("Name and password do not belong together.", 401, "wrongSignIn")
        : { me: { id: "a1" } },
    );
    const root = document.body.appendChild(document.createElement("div"));
    const begun = jest.fn();
    let come!: Promise<unknown>;
    await act(async () => void (come = showWayIn(root, begun)));
    await userEvent.type(screen.getByLabelText(/^Name/), "ines");
    expect(begun).toHaveBeenCalled();
    await userEvent.type(screen.getByLabelText(/^Password/), "guessed{Enter}");
    expect((await screen.findByRole("alert")).textContent).toContain("do not belong together");
    await userEvent.type(screen.getByLabelText(/^Password/), "{Enter}");
    expect(await act(() => come)).toEqual({ me: { id: "a1" } });
    expect(root.textContent).toBe("");
  });
});

describe("accounts", () => {
  const INES = {
    id: "a1",
    login: "ines",
    name: "Ines",
    roles: ["controller"],
    only: {},
    person: null,
    timeZone: "UTC",
  };
  const GROUPS = [
    { id: "port", name: "Port", parent: null },
    { id: "locks", name: "Locks", parent: "port" },
  ];

  it("one that is changed begins with what it is, and sends all of it; an empty password stays as it was", async () => {
    const sent = listen(({ to }) =>
      to.startsWith("GET") ? { accounts: [INES], people: [{ id: "p1", name: "Ines Okafor" }], groups: GROUPS } : INES,
    );
    show(<Accounts />);
    await userEvent.click(await screen.findByRole("button", { name: "Ines" }));
    expect(screen.getByRole<HTMLInputElement>("checkbox", { name: "controller" }).checked).toBe(true);
    await userEvent.click(screen.getByRole("checkbox", { name: "approver" }));
    expect(screen.getAllByText("for the whole house")).toHaveLength(2);
    const where = (role: string) => screen.getByRole("combobox", { name: `Groups for which ${role} is given` });
    await userEvent.selectOptions(where("approver"), "locks");
    await userEvent.selectOptions(where("approver"), "port");
    await userEvent.click(screen.getByRole("button", { name: "Not for Port as approver" }));
    await userEvent.selectOptions(where("controller"), "port");
    // A role that is taken away and given again holds everywhere, as one that was never limited.
    await userEvent.click(screen.getByRole("checkbox", { name: "controller" }));
    await userEvent.click(screen.getByRole("checkbox", { name: "controller" }));
    await userEvent.selectOptions(screen.getByRole("combobox", { name: "Person in the plans" }), "Ines Okafor");
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    await waitFor(() => expect(sent.some(({ to }) => to.startsWith("PUT"))).toBe(true));
    const put = sent.find(({ to }) => to.startsWith("PUT"))!;
    expect(put).toEqual({
      to: "PUT /api/accounts/a1",
      body: { name: "Ines", roles: ["controller", "approver"], only: { approver: ["locks"] }, person: "p1" },
    });
  });
});

describe("where roles are given", () => {
  it("is said of an account in the list", async () => {
    const rita = {
      id: "a2",
      login: "rita",
      name: "Rita",
      roles: ["reader", "approver"],
      only: { reader: ["locks", "x"] },
    };
    listen(() => ({ accounts: [rita], people: [], groups: [{ id: "locks", name: "Locks", parent: null }] }));
    show(<Accounts />);
    expect(await screen.findByText("reader (Locks, a group that is gone), approver")).toBeTruthy();
  });
});
