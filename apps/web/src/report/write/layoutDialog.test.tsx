/** @jest-environment jsdom */
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, show } from "../../testing/fakePage.tsx";
import { LayoutDialog } from "./LayoutDialog.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const KNOWN = { sections: ["ratings", "figures", "trust"], groupSections: ["projects", "glance"], from: "Harbour" };

describe("the parts of a group's reports", () => {
  const open = async () => {
    const sent = listen(({ to }) => (to.startsWith("GET") ? KNOWN : { ok: true }));
    show(<LayoutDialog of="g" />);
    await userEvent.click(screen.getByRole("button", { name: "Parts …" }));
    const group = within(await screen.findByRole("group", { name: "The group's own" }));
    return { sent: () => sent.filter(({ to }) => to.startsWith("PUT")), group };
  };
  const ticked = (name: string): number =>
    within(screen.getByRole("group", { name }))
      .getAllByRole<HTMLInputElement>("checkbox")
      .filter(({ checked }) => checked).length;

  it("are shown as they stand, and sent as they were ticked and ordered, both kinds together", async () => {
    const { sent, group } = await open();
    expect(screen.getByText("As Harbour says.")).toBeTruthy();
    expect(ticked("The group's own")).toBe(2);
    expect(screen.queryByRole("button", { name: "Take it from above" })).toBeNull();
    await userEvent.click(group.getByRole("checkbox", { name: "Figures together" }));
    await userEvent.click(group.getByRole("button", { name: "At a glance earlier" }));
    const projects = within(screen.getByRole("group", { name: "Of each project" }));
    await userEvent.click(projects.getByRole("checkbox", { name: "Trust in the plan" }));
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    expect(sent()).toEqual([
      {
        to: "PUT /api/status-reports/g/layout",
        body: { sections: ["ratings", "figures"], groupSections: ["glance", "projects", "sums"] },
      },
    ]);
  });

  it("cannot be none", async () => {
    const { sent, group } = await open();
    for (const name of ["Project by project", "At a glance"])
      await userEvent.click(group.getByRole("checkbox", { name }));
    expect(screen.getByText("Select at least one part.")).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Save" }).disabled).toBe(true);
    expect(sent()).toEqual([]);
  });
});
