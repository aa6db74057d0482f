/** @jest-environment jsdom */
import { act, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, show } from "../../testing/fakePage.tsx";
import { Find } from "./Find.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

// The dialog cannot be fetched while there is no connection.
let mockAway = true;
jest.mock("./FindDialog.tsx", () => {
  if (mockAway) throw new TypeError("Failed to fetch dynamically imported module");
  return jest.requireActual<object>("./FindDialog.tsx");
});

describe("the key that finds anything", () => {
  it("keeps what is typed until the dialog is there, however long that is, and the page stays", async () => {
    const found = {
      readAs: [],
      projects: [],
      activities: [],
      people: [],
      watchlists: [],
      groups: [],
      risks: [],
      matters: [],
      periods: [],
    };
    listen(({ to }) => (to.endsWith("/following") ? [] : found));
    show(
      <>
        <p>The page</p>
        <Find />
      </>,
    );
    const user = userEvent.setup();
    await user.keyboard("{Control>}k{/Control}");
    expect(await screen.findByText("Loading …")).toBeTruthy();
    await user.keyboard("{Escape}");
    expect(screen.queryByText("Loading …")).toBeNull();
    await user.keyboard("{Control>}k{/Control}");
    await screen.findByText("Loading …");
    await user.keyboard("dregd{Backspace}{Backspace}dge");
    expect(screen.getByText("The page")).toBeTruthy();
    act(() => void (mockAway = false));
    const field = await screen.findByRole<HTMLInputElement>("combobox", { name: "Find anything" }, { timeout: 5_000 });
    expect(field.value).toBe("dredge");
    await user.type(field, " the");
    await waitFor(() => expect(field.value).toBe("dredge the"));
  });
});
