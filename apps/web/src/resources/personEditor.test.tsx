/** @jest-environment jsdom */
import type { PlanBundle } from "@chronometra/core";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { slipway } from "../plan/testing/plans.ts";
import { listen } from "../testing/fakePage.tsx";
import { PersonEditor } from "./PersonEditor.tsx";
import { put, stagePlan } from "./testing/planStage.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const PEOPLED: PlanBundle = {
  ...slipway(),
  people: [
    { id: "ann", name: "Ann", role: "Diver", rates: [{ from: "2000-01-01", perHourMinor: 6000 }] },
    { id: "bo", name: "Bo" },
    { id: "role", name: "A diver" },
  ],
  assignments: [
    { activity: "dig", person: "ann", plannedMinutes: 600 },
    { activity: "pour", person: "role", plannedMinutes: 300 },
  ],
};
const OTHERS = [
  { id: "q", code: "Q", name: "Quay", same: true, mayEdit: true },
  { id: "r", code: "R", name: "Reef", same: false, mayEdit: true },
  { id: "s", code: "S", name: "Sea", same: true, mayEdit: false },
];
const NOTHING = { finish: null, activities: [], milestones: [] };

function edit(id: string, { mayEdit = true, others = OTHERS } = {}) {
  const done = jest.fn();
  const stage = stagePlan(
    PEOPLED,
    ({ view, plan, change }) =>
      plan.people.has(id) ? (
        <PersonEditor
          key={plan.placeholders.has(id) ? "role" : "person"}
          view={view}
          plan={plan}
          person={plan.people.get(id)!}
          isNew={false}
          others={others}
          change={change}
          onDone={done}
        />
      ) : (
        <p>Gone</p>
      ),
    { mayEdit },
  );
  return { stage, done };
}
const stored = (sent: readonly { to: string; body: unknown }[]) =>
  sent.filter(({ to }) => to === "POST /api/shared").map(({ body }) => body as { projects: string[]; rows: unknown[] });

describe("someone who works on a plan", () => {
  it("shows nothing to store until something differs, and no more once it is as it was", async () => {
    listen(() => ({}));
    edit("ann");
    expect(screen.queryByRole("button", { name: /^Store/ })).toBeNull();
    await put("Name", "Anna");
    expect(screen.getByRole("button", { name: "Store in 2 projects" })).toBeTruthy();
    await put("Name", "Ann");
    expect(screen.queryByRole("button", { name: /^Store/ })).toBeNull();
  });

  it("needs a name", async () => {
    listen(() => ({}));
    edit("ann");
    await put("Name", "  ");
    expect(screen.getByRole("alert").textContent).toBe("A person needs a name.");
  });

  it("is stored here and where it says the same; where it differs only if that is chosen, never where one may not", async () => {
    const sent = listen(({ to }) => (to.endsWith("/effect") ? [] : [{ project: "p", revision: 2 }]));
    const { done } = edit("ann");
    await put("Role", "Rigger");
    expect(screen.getByRole<HTMLInputElement>("checkbox", { name: "S" }).disabled).toBe(true);
    await userEvent.click(screen.getByRole("checkbox", { name: /R/ }));
    await userEvent.click(screen.getByRole("button", { name: "Store in 3 projects" }));
    await waitFor(() => expect(done).toHaveBeenCalled());
    expect(stored(sent)).toEqual([
      {
        projects: ["p", "q", "r"],
        rows: [{ table: "people", row: { ...PEOPLED.people![0], role: "Rigger" } }],
      },
    ]);
  });

  it("with leave gets a calendar that rests on the project's", async () => {
    const sent = listen(() => [{ project: "p", revision: 2 }]);
    const { done } = edit("bo", { others: [] });
    await put("Add leave", "4 May to 8 May 2026: leave");
    await userEvent.click(screen.getByRole("button", { name: "Store in 1 project" }));
    await waitFor(() => expect(done).toHaveBeenCalled());
    const [{ rows } = { rows: [] }] = stored(sent);
    expect(rows).toMatchObject([
      { table: "calendars", row: { id: "std" }, ifMissing: true },
      { table: "calendars", row: { base: "std", exceptions: [{ from: "2026-05-04", to: "2026-05-08", shifts: [] }] } },
      { table: "people", row: { id: "bo", calendar: expect.stringMatching(/^leave-/) } },
    ]);
  });

  it("shows what storing would move, until something else is drafted", async () => {
    listen(({ to }) => (to.endsWith("/effect") ? [{ project: "p", code: "P", name: "Pier", effect: NOTHING }] : {}));
    edit("ann", { others: [] });
    await put("Add a rate", "70 from 1 Jan 2027");
    await userEvent.click(screen.getByRole("button", { name: "Show what moves" }));
    expect(await screen.findByText("Nothing moves in P.")).toBeTruthy();
    await put("Role", "Rigger");
    expect(screen.queryByText("Nothing moves in P.")).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Leave as it was" }));
    expect(screen.getByLabelText<HTMLInputElement>("Role").value).toBe("Diver");
    expect(screen.queryByLabelText("Rate from 1 Jan 2027")).toBeNull();
  });

  it("stands for a role until somebody is named, who gets the work", async () => {
    listen(() => ({}));
    const { stage, done } = edit("role");
    await userEvent.click(screen.getByRole("checkbox", { name: "Stands for a role, to be filled later" }));
    await waitFor(() => expect(stage.plan.placeholders.has("role")).toBe(true));
    const give = await screen.findByRole<HTMLButtonElement>("button", { name: "Give them the work" });
    expect(give.disabled).toBe(true);
    const by = screen.getByLabelText("Filled by");
    expect(
      within(by)
        .getAllByRole("option")
        .map(({ textContent }) => textContent),
    ).toEqual(["select someone", "Ann", "Bo"]);
    await userEvent.selectOptions(by, "Bo");
    await userEvent.click(give);
    await waitFor(() => expect(done).toHaveBeenCalled());
    expect([...stage.plan.assignments.values()].map(({ activity, person }) => [activity, person])).toEqual([
      ["dig", "ann"],
      ["pour", "bo"],
    ]);
  });

  it("leaves the plan only without work in it", async () => {
    listen(() => ({}));
    const { stage, done } = edit("bo");
    await userEvent.click(screen.getByRole("button", { name: "Remove from this plan" }));
    await waitFor(() => expect(done).toHaveBeenCalled());
    expect(stage.plan.people.has("bo")).toBe(false);
  });

  it("with work in it is not taken away", () => {
    listen(() => ({}));
    edit("ann");
    expect(screen.queryByRole("button", { name: "Remove from this plan" })).toBeNull();
  });

  it("is only read by whoever may not change the plan", () => {
    listen(() => ({}));
    edit("ann", { mayEdit: false });
    expect(screen.getByLabelText<HTMLInputElement>("Name").disabled).toBe(true);
    expect(screen.queryByRole("checkbox", { name: /Stands for a role/ })).toBeNull();
    expect(screen.queryByLabelText("Add a rate")).toBeNull();
  });
});
