/** @jest-environment jsdom */
import { act, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState, useSyncExternalStore } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { show } from "../../testing/fakePage.tsx";
import type { Change } from "@chronometra/core";
import { stage } from "../testing/stage.ts";
import { AboutPanel, type AboutTab } from "./AboutPanel.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const closed = jest.fn();
function Panel({ id, first, mayEdit }: { id: string; first: AboutTab; mayEdit: boolean }) {
  const { session } = stage;
  const { sheet } = useSyncExternalStore(session.subscribe, session.snapshot);
  const [tab, setTab] = useState(first);
  return (
    <AboutPanel
      tab={tab}
      onTab={setTab}
      row={sheet?.rows.find((row) => row.id === id) ?? null}
      sheet={sheet!}
      session={session}
      mayEdit={mayEdit}
      onGo={() => undefined}
      column={null}
      onClose={closed}
      takesKeyboard
    />
  );
}
const PEOPLED: Change[] = [
  {
    type: "addRow",
    table: "people",
    key: "ann",
    row: { id: "ann", name: "Ann", rates: [{ from: "2000-01-01", perHourMinor: 6000 }] },
  },
  { type: "addRow", table: "people", key: "bo", row: { id: "bo", name: "Bo" } },
  { type: "addRow", table: "assignments", key: "w1", row: { activity: "dig", person: "ann", plannedMinutes: 960 } },
];
/** The panel on an activity, of a plan with two people, one of them on Dig. */
async function open(id: string, tab: AboutTab, { mayEdit = true, changes = [] as Change[] } = {}): Promise<void> {
  await act(async () => {
    await stage.session.change([...PEOPLED, ...changes]);
    await stage.settled();
  });
  show(<Panel id={id} first={tab} mayEdit={mayEdit} />);
  await screen.findByRole("tabpanel");
}
const put = async (label: string, text: string): Promise<void> => {
  const field = await screen.findByLabelText(label);
  await userEvent.clear(field);
  await userEvent.type(field, `${text}{Enter}`);
};
const alert = () => screen.getAllByRole("alert").at(-1)!.textContent;
/** What the server has by now. */
const stored = async () => {
  await act(() => stage.settled());
  return stage.server.plan;
};

describe("who works on an activity, and what else it costs", () => {
  it("is someone added with hours and share, as in the table", async () => {
    await open("dig", "work");
    await put("Add someone", "Bo 16h at 50%");
    await waitFor(async () => expect((await stored()).assignments.size).toBe(2));
    expect([...(await stored()).assignments.values()].at(-1)).toMatchObject({
      person: "bo",
      plannedMinutes: 960,
      unitsPercent: 50,
    });
    expect(within(await screen.findByRole("row", { name: /Together/ })).getByText("32 h")).toBeTruthy();
  });

  it("says who is nobody, and keeps what was typed", async () => {
    await open("dig", "work");
    await put("Add someone", "Cy 16h");
    await waitFor(() => expect(alert()).toMatch(/Cy/));
    expect(screen.getByLabelText<HTMLInputElement>("Add someone").value).toBe("Cy 16h");
    expect((await stored()).assignments.size).toBe(1);
  });

  it("takes hours, share, remaining work and the day it goes on from", async () => {
    await open("dig", "work");
    await put("Hours of Ann", "2d");
    await put("Share of Ann", "150%");
    await put("Ann goes on from", "9 Mar 2026");
    const own = async () => (await stored()).assignments.get("w1");
    await waitFor(async () =>
      expect(await own()).toMatchObject({ plannedMinutes: 960, unitsPercent: 150, restart: "2026-03-09" }),
    );
    await put("Share of Ann", "100");
    await put("Ann goes on from", " ");
    await waitFor(async () => expect(await own()).toEqual({ activity: "dig", person: "ann", plannedMinutes: 960 }));
  });

  it.each([
    ["Hours of Ann", "long", "Write hours as 16h, 16 or 2d."],
    ["Share of Ann", "0%", "A share of someone's time is above 0, such as 50%."],
    ["Add a cost", "Crane", "Write what for and how much: Crane hire 1200."],
  ])("%s takes no %s", async (label, text, why) => {
    await open("dig", "work");
    await put(label, text);
    expect(alert()).toBe(why);
  });

  it("has costs, with what for, how much and when they fall due", async () => {
    await open("dig", "work");
    await put("Add a cost", "Crane hire 1200.50");
    await userEvent.selectOptions(await screen.findByLabelText("When Crane hire falls due"), "at the start");
    await put("Category of Crane hire", "Crane");
    await waitFor(async () =>
      expect([...(await stored()).costs.values()]).toEqual([
        expect.objectContaining({ activity: "dig", category: "Crane", plannedMinor: 120_050, timing: "start" }),
      ]),
    );
    await put("Amount of Crane", "much");
    expect(alert()).toMatch(/^Write an amount/);
    await userEvent.click(screen.getByRole("button", { name: "Remove Crane" }));
    await waitFor(async () => expect((await stored()).costs.size).toBe(0));
  });

  it("of a branch is told as what is below it comes to", async () => {
    await open("works", "work");
    expect(await screen.findByText(/All below it comes to 16 h/)).toBeTruthy();
    expect(screen.queryByLabelText("Add someone")).toBeNull();
  });

  it("is only read by whoever may not change the plan, and of what is parked", async () => {
    await open("dig", "work", { mayEdit: false });
    expect((await screen.findByLabelText<HTMLInputElement>("Hours of Ann")).disabled).toBe(true);
    expect(screen.queryByRole("button", { name: /Remove/ })).toBeNull();
  });
});

describe("by which rule an activity earns", () => {
  const credit = async () => (await stored()).activities.get("dig")!.credit;

  it("begins with what the rule cannot do without", async () => {
    await open("dig", "credit");
    const rule = await screen.findByRole("combobox", { name: /Its budget is earned by/ });
    await userEvent.selectOptions(rule, "a share when it starts, the rest when it finishes");
    await waitFor(async () => expect(await credit()).toEqual({ rule: "startFinish", startCredit: 50 }));
    await put("Credit at the start", "120%");
    expect(alert()).toBe("A credit lies between 0 and 100%.");
    await put("Credit at the start", "25%");
    await waitFor(async () => expect(await credit()).toEqual({ rule: "startFinish", startCredit: 25 }));
    await userEvent.selectOptions(rule, "the percent that is reported");
    await waitFor(async () => expect(await credit()).toBeUndefined());
  });

  it("has steps with weights; the last of them is kept, and why is told", async () => {
    await open("dig", "credit", {
      changes: [
        {
          type: "setCredit",
          activity: "dig",
          credit: {
            rule: "steps",
            steps: [
              { name: "Dig", weight: 1 },
              { name: "Shore", weight: 3 },
            ],
          },
        },
      ],
    });
    expect(await screen.findByText("75%")).toBeTruthy();
    await put("Weight of Shore", "-1");
    expect(alert()).toBe("A weight is 0 or more.");
    await put("Name of step 2", "Shoring");
    await put("Shoring done on", "4 Mar 2026");
    await waitFor(async () =>
      expect((await credit())?.steps?.[1]).toEqual({ name: "Shoring", weight: 3, doneOn: "2026-03-04" }),
    );
    await userEvent.click(screen.getByRole("button", { name: "Remove Dig" }));
    await waitFor(async () => expect((await credit())?.steps).toHaveLength(1));
    await userEvent.click(screen.getByRole("button", { name: "Remove Shoring" }));
    await waitFor(() =>
      expect(toast.error).toHaveBeenCalledWith(expect.stringMatching(/^Not stored: .*at least one step/)),
    );
    expect((await credit())?.steps).toHaveLength(1);
  });

  it("has stages, of which the one that is reached goes along with its name and stays", async () => {
    await open("dig", "credit", {
      changes: [
        {
          type: "setCredit",
          activity: "dig",
          credit: {
            rule: "stages",
            stages: [
              { name: "Begun", credit: 20 },
              { name: "Done", credit: 100 },
            ],
            stage: "Begun",
          },
        },
      ],
    });
    expect((await screen.findByRole<HTMLButtonElement>("button", { name: "Remove Begun" })).disabled).toBe(true);
    await put("Name of stage 1", "Started");
    await waitFor(async () => expect(await credit()).toMatchObject({ stage: "Started" }));
    await userEvent.click(screen.getByRole("radio", { name: "Done is reached" }));
    await waitFor(async () => expect(await credit()).toMatchObject({ stage: "Done" }));
    await put("Add a stage", "Checked");
    await waitFor(async () => expect((await credit())?.stages?.at(-1)).toEqual({ name: "Checked", credit: 100 }));
  });

  it("follows another activity, and says why where they would go round", async () => {
    await open("dig", "credit", {
      changes: [{ type: "setCredit", activity: "pour", credit: { rule: "apportioned", to: "dig" } }],
    });
    const rule = await screen.findByRole("combobox", { name: /Its budget is earned by/ });
    await userEvent.selectOptions(rule, "the progress of another activity");
    const follows = await screen.findByLabelText("Follows");
    await userEvent.selectOptions(follows, "Pour");
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith(expect.stringMatching(/^Not stored: /)));
    expect((await credit())?.to).not.toBe("pour");
  });
});

describe("dates, owner and wishes of an activity", () => {
  const dig = async () => (await stored()).activities.get("dig")!;

  it("takes an owner, a deadline and a wish with its reason", async () => {
    await open("dig", "dates");
    await userEvent.selectOptions(await screen.findByLabelText("Owner"), "Bo");
    await put("Deadline", "13 Mar 2026");
    await put("Date wished for", "9 Mar 2026");
    await waitFor(async () => expect((await dig()).wish?.date).toBe("2026-03-09"));
    await put("Reason of the date wish", "the permit");
    await waitFor(async () =>
      expect(await dig()).toMatchObject({ owner: "bo", deadline: "2026-03-13", wish: { reason: "the permit" } }),
    );
    await put("Deadline", "some day");
    expect(alert()).not.toBe("");
    await put("Deadline", " ");
    await waitFor(async () => expect((await dig()).deadline).toBeUndefined());
    await userEvent.selectOptions(screen.getByLabelText("Owner"), "nobody yet");
    await waitFor(async () => expect((await dig()).owner).toBeUndefined());
  });

  it("becomes a milestone without a duration, and work again", async () => {
    await open("dig", "dates");
    await userEvent.selectOptions(await screen.findByLabelText("It is"), "a milestone");
    await waitFor(async () => expect(await dig()).toMatchObject({ kind: "milestone" }));
    expect((await dig()).durationMinutes).toBeUndefined();
  });

  it("goes from tab to tab by side arrows, and back to the plan by Escape", async () => {
    await open("dig", "dates");
    expect(document.activeElement?.textContent).toBe("Dates and owner");
    await userEvent.keyboard("{ArrowRight}");
    expect(document.activeElement?.textContent).toBe("Rule of credit");
    await userEvent.keyboard("{ArrowRight}");
    expect(document.activeElement?.textContent).toBe("Notes");
    await userEvent.keyboard("{ArrowRight}{ArrowRight}{ArrowRight}");
    expect(document.activeElement?.textContent).toBe("Why");
    await userEvent.keyboard("{Escape}");
    expect(closed).toHaveBeenCalledTimes(1);
  });
});
