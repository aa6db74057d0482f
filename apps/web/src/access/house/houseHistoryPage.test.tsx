/** @jest-environment jsdom */
import type { HouseHistory } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, show } from "../../testing/fakePage.tsx";
import { HouseHistoryPage } from "./HouseHistoryPage.tsx";

const SOME: HouseHistory = {
  changes: [
    {
      ...{ id: 9, at: "2026-11-20T10:00:00.000Z", by: "Dagny", about: "account", subject: "Wim" },
      lines: [
        { field: "roles", was: "readers", is: "readers, approvers" },
        { field: "password", was: "–", is: "a new one" },
      ],
    },
  ],
  older: 9,
};

it("has a line for each field; older ones and one kind alone are asked for", async () => {
  const sent = listen(({ to }) => (to.includes("before=9") ? { changes: [], older: null } : SOME));
  show(<HouseHistoryPage />);
  const table = within(await screen.findByRole("table", { name: "History of the house" }));
  expect(table.getByText("readers, approvers")).toBeTruthy();
  expect(table.getAllByText("Wim")).toHaveLength(2);
  await userEvent.click(screen.getByRole("button", { name: /Older/ }));
  await waitFor(() => expect(sent.some(({ to }) => to.includes("before=9"))).toBe(true));
  await userEvent.selectOptions(screen.getByLabelText("What was changed"), "limits");
  await waitFor(() => expect(sent.some(({ to }) => to.includes("about=limits"))).toBe(true));
});

it("says where nothing was changed", async () => {
  listen(() => ({ changes: [], older: null }));
  show(<HouseHistoryPage />, { at: "/?about=limits" });
  expect(await screen.findByText("Nothing of that was changed.")).toBeTruthy();
});
