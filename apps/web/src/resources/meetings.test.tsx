/** @jest-environment jsdom */
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { slipway } from "../plan/testing/plans.ts";
import { MeetingsPart } from "./MeetingsPart.tsx";
import { stagePlan } from "./testing/planStage.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const PEOPLED = {
  ...slipway(),
  people: [
    { id: "ann", name: "Ann" },
    { id: "bo", name: "Bo" },
  ],
};
const add = () => screen.getByRole<HTMLButtonElement>("button", { name: "Add the meeting" });

/** Fills the form in, as far as it is said. */
async function fill({
  name = "Round",
  day = "4 Mar 2026",
  until = "",
  length = "1:30",
  on = "Dig",
} = {}): Promise<void> {
  await userEvent.type(screen.getByLabelText("Name of the meeting"), name);
  await userEvent.type(screen.getByLabelText("Day of the meeting"), `${day}{Enter}`);
  if (until !== "") await userEvent.type(screen.getByLabelText("Last day, where weekly"), `${until}{Enter}`);
  await userEvent.clear(screen.getByLabelText("How long"));
  await userEvent.type(screen.getByLabelText("How long"), length);
  await userEvent.type(screen.getByLabelText("Booked on"), on);
  await userEvent.click(screen.getByRole("checkbox", { name: "Bo" }));
}

describe("a plan's meetings", () => {
  it("are added once all is said that they need", async () => {
    const stage = stagePlan(PEOPLED, (props) => <MeetingsPart {...props} />);
    expect(screen.getByText("No meetings yet.")).toBeTruthy();
    expect(add().disabled).toBe(true);
    await fill();
    expect(add().disabled).toBe(false);
    await userEvent.click(add());
    await waitFor(() => expect(stage.plan.meetings.size).toBe(1));
    expect([...stage.plan.meetings.values()][0]).toMatchObject({
      name: "Round",
      activity: "dig",
      date: "2026-03-04",
      minutes: 90,
      people: ["bo"],
    });
    expect(screen.getByRole("cell", { name: "Round" })).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>("Name of the meeting").value).toBe("");
  });

  it("come again each week until a day", async () => {
    const stage = stagePlan(PEOPLED, (props) => <MeetingsPart {...props} />);
    await fill({ until: "25 Mar 2026" });
    await userEvent.click(add());
    await waitFor(() => expect([...stage.plan.meetings.values()][0]?.weeklyUntil).toBe("2026-03-25"));
    expect(screen.getByText("each week from 4 Mar 2026 to 25 Mar 2026")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Remove" }));
    await waitFor(() => expect(stage.plan.meetings.size).toBe(0));
  });

  it.each([
    ["a length that is none", { length: "long" }],
    ["an activity that there is not", { on: "Nowhere" }],
    ["no name", { name: " " }],
  ])("are not added with %s", async (_what, said) => {
    stagePlan(PEOPLED, (props) => <MeetingsPart {...props} />);
    await fill(said);
    expect(add().disabled).toBe(true);
  });

  it("are booked on what takes time alone: branches and parked work are not offered", () => {
    stagePlan(PEOPLED, (props) => <MeetingsPart {...props} />);
    const list = document.getElementById(screen.getByLabelText("Booked on").getAttribute("list")!)!;
    const offered = [...list.querySelectorAll("option")].map(({ value }) => value);
    expect(offered).toContain("Dig");
    expect(offered).not.toContain("Works");
    expect(offered).not.toContain("Later");
  });

  it("are only read by whoever may not change the plan", () => {
    stagePlan(PEOPLED, (props) => <MeetingsPart {...props} />, { mayEdit: false });
    expect(screen.queryByRole("form")).toBeNull();
    expect(within(screen.getByRole("table", { name: "Meetings" })).queryByRole("button")).toBeNull();
  });
});
