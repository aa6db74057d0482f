/** @jest-environment jsdom */
import type { LifeCycle, LifeCycles, WriteLifeCycle } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../../shared/messages/toast.ts";
import { listen, Refusal, show, someone, type Sent } from "../../testing/fakePage.tsx";
import { LifeCyclesPage } from "./LifeCyclesPage.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const CYCLE: LifeCycle = {
  kind: "Renewal",
  stages: [
    { id: "a", name: "Idea", gate: "Go", conditions: [{ id: "c", kind: "cost", percent: 10 }] },
    { id: "b", name: "Works", gate: "Done", conditions: [] },
  ],
};
const LIST: LifeCycles = {
  cycles: [{ id: "r", cycle: CYCLE, projects: [{ id: "p", code: "P-1", name: "Pier", stage: "Idea" }] }],
  severities: [
    { id: "small", name: "small" },
    { id: "grave", name: "grave" },
  ],
  mayEdit: true,
};

function open(list: LifeCycles = LIST, answer: (sent: Sent) => unknown = () => undefined) {
  jest.mocked(toast.error).mockClear();
  let now = list;
  const all = listen((sent) => {
    const said = answer(sent);
    if (said !== undefined) return said;
    const { value } = (sent.body ?? {}) as Partial<WriteLifeCycle>;
    if (sent.to.startsWith("PUT") && value != null)
      now = { ...now, cycles: now.cycles.map((each) => ({ ...each, cycle: value })) };
    return now;
  });
  show(<LifeCyclesPage />, { me: someone("controller") });
  return () => all.flatMap(({ to, body }) => (to.startsWith("PUT") ? [body as WriteLifeCycle] : []));
}
const stagesIn = ({ value }: WriteLifeCycle): string[] => value!.stages.map(({ name }) => name);

describe("life cycles", () => {
  it("are written whole, with what was seen: names, order, stages more and fewer", async () => {
    const sent = open();
    const cycle = within(await screen.findByRole("region", { name: "Renewal" }));
    await userEvent.click(cycle.getByRole("button", { name: "Move Idea down" }));
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(sent()[0]!.was).toEqual(CYCLE);
    expect(stagesIn(sent()[0]!)).toEqual(["Works", "Idea"]);
    await waitFor(() =>
      expect(cycle.getByRole<HTMLButtonElement>("button", { name: "Move Works up" }).disabled).toBe(true),
    );
    await userEvent.click(cycle.getByRole("button", { name: "A stage" }));
    await waitFor(() => expect(stagesIn(sent()[1]!)).toEqual(["Works", "Idea", "Stage 3"]));
    await userEvent.click(await cycle.findByRole("button", { name: "Remove the stage Works" }));
    await waitFor(() => expect(stagesIn(sent()[2]!)).toEqual(["Idea", "Stage 3"]));
  });

  it("take limits as they are typed, and say what is no number", async () => {
    const sent = open();
    const percent = await screen.findByLabelText("Percent over the budget");
    await userEvent.clear(percent);
    await userEvent.type(percent, "much{Enter}");
    expect((await screen.findByRole("alert")).textContent).toContain("A number of 0 or more");
    expect(sent()).toEqual([]);
    await userEvent.clear(percent);
    await userEvent.type(percent, "2,5{Enter}");
    await waitFor(() =>
      expect(sent()[0]!.value!.stages[0]!.conditions).toEqual([{ id: "c", kind: "cost", percent: 2.5 }]),
    );
  });

  it("take something that a person confirms", async () => {
    const sent = open();
    await userEvent.selectOptions(
      await screen.findByLabelText("Add what must be true at Done"),
      "something that a person confirms",
    );
    await waitFor(() => expect(sent()[0]!.value!.stages[1]!.conditions).toMatchObject([{ kind: "confirmed" }]));
    expect(await screen.findByLabelText("What a person confirms")).toBeTruthy();
  });

  it("begin with stages that can be changed; one that is used is not removed", async () => {
    const sent = open();
    await userEvent.type(await screen.findByLabelText("Kind of project"), "Dredging");
    await userEvent.click(screen.getByRole("button", { name: "Add a life cycle" }));
    await waitFor(() => expect(sent()[0]).toMatchObject({ was: null, value: { kind: "Dredging" } }));
    expect(sent()[0]!.value!.stages.length).toBeGreaterThan(2);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Remove" }).disabled).toBe(true);
  });

  it("tell of another’s word", async () => {
    open(LIST, ({ to }) => (to.startsWith("PUT") ? new Refusal("changed by someone else meanwhile", 409) : undefined));
    await userEvent.click(await screen.findByRole("button", { name: "Move Idea down" }));
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith("changed by someone else meanwhile"));
  });

  it("are read by others", async () => {
    open({ ...LIST, mayEdit: false });
    expect(await screen.findByText("The estimate at completion is at most 10% over the budget")).toBeTruthy();
    expect(screen.queryByRole("button")).toBeNull();
    expect(screen.queryByRole("textbox")).toBeNull();
  });
});
