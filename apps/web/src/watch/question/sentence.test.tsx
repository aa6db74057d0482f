/** @jest-environment jsdom */
import type { WatchChoices, WatchCondition, WatchQuestion } from "@chronometra/contract";
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { show } from "../../testing/fakePage.tsx";
import { Sentence } from "./Sentence.tsx";

const CHOICES = {
  people: [
    { id: "ann", name: "Ann" },
    { id: "bo", name: "Bo" },
  ],
  roles: ["Diver"],
  projects: [{ id: "p", name: "Pier" }],
  programmes: [],
  managers: [],
  categories: [],
  ownFields: [{ name: "Zone", type: "choice", choices: ["North", "South"] }],
} as unknown as WatchChoices;

let now: WatchQuestion;
function Stage({
  where,
  choices = CHOICES,
  fresh,
}: {
  where: WatchCondition[][];
  choices?: WatchChoices | null;
  fresh: boolean;
}) {
  const [question, setQuestion] = useState({
    about: "activities",
    where,
    columns: ["name"],
  } as unknown as WatchQuestion);
  now = question;
  return <Sentence question={question} choices={choices ?? undefined} onQuestion={setQuestion} fresh={fresh} />;
}
const ask = (where: WatchCondition[][], { fresh = true, choices = CHOICES as WatchChoices | null } = {}) =>
  show(<Stage where={where} choices={choices} fresh={fresh} />);
const put = async (label: string, text: string): Promise<void> => {
  const field = screen.getByLabelText(label);
  await userEvent.clear(field);
  await userEvent.type(field, `${text}{Enter}`);
};
const OPEN: WatchCondition = { field: "state", is: "any", of: ["notStarted", "inProgress"] };
const LATE: WatchCondition = { field: "drift", is: "atLeast", number: 5 };
const SOON: WatchCondition = { field: "finish", is: "within", from: "today", to: "today+30" };

describe("a question as a sentence", () => {
  it("is read as it is asked, groups divided by or", () => {
    ask([[OPEN, LATE], [SOON], [{ field: "people", is: "none", of: ["me", "bo"] }]], { fresh: false });
    const words = document.querySelector("p")!.textContent!;
    expect(words).toContain("State is not started or under way");
    expect(words).toMatch(/and .+ is at least 5 d or .+ lies between today and in 30 days or People is not me or Bo/);
  });

  it("that asks nothing says so, and is taken apart to be changed", async () => {
    ask([], { fresh: false });
    expect(screen.getByText("All of them.")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Change" }));
    expect(screen.getByRole("group", { name: "What must hold" })).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Done" }));
    expect(screen.queryByRole("group")).toBeNull();
  });

  it("takes a number, and says what one looks like", async () => {
    ask([[LATE]]);
    const [field] = screen.getAllByLabelText(/: how much$/);
    const label = field!.getAttribute("aria-label")!;
    await put(label, "many");
    expect(screen.getByRole("alert").textContent).toBe("Write a number, as 15 or 0.5.");
    expect(now.where).toEqual([[LATE]]);
    await put(label, "0,5");
    expect(now.where).toEqual([[{ ...LATE, number: 0.5 }]]);
  });

  it("takes days that move along, and days that stay", async () => {
    ask([[SOON]]);
    const from = screen.getByLabelText(/: from$/).getAttribute("aria-label")!;
    const to = screen.getByLabelText(/: to$/).getAttribute("aria-label")!;
    await put(from, "7 days ago");
    await put(to, "4 May 2027");
    expect(now.where).toEqual([[{ ...SOON, from: "today-7", to: "2027-05-04" }]]);
    await put(to, "some day");
    expect(screen.getByRole("alert").textContent).toBe("Write a date, or today, in 30 days, 7 days ago.");
    expect(now.where).toEqual([[{ ...SOON, from: "today-7", to: "2027-05-04" }]]);
  });

  it("takes several of a list by their names; without any it still asks for one", async () => {
    ask([[OPEN]]);
    await put("State: which", "finished");
    expect(now.where).toEqual([[{ ...OPEN, of: ["notStarted", "inProgress", "complete"] }]]);
    await put("State: which", "gone");
    expect(screen.getByRole("alert").textContent).toBe('There is no "gone" to select.');
    for (const name of ["not started", "under way", "finished"])
      await userEvent.click(screen.getByRole("button", { name: `Remove ${name}` }));
    expect(now.where).toEqual([[{ ...OPEN, of: ["…"] }]]);
    expect(screen.getByLabelText<HTMLInputElement>("State: which").placeholder).toBe("choose");
  });

  it("takes nothing for a list that has not come yet", () => {
    ask([[{ field: "people", is: "any", of: ["ann"] }]], { choices: null });
    const field = screen.getByLabelText<HTMLInputElement>("People: which");
    expect(field.disabled).toBe(true);
    expect(field.placeholder).toBe("Loading …");
  });

  it("begins a condition anew when it asks otherwise", async () => {
    ask([[{ field: "name", is: "has", text: "dig" }]]);
    await userEvent.selectOptions(screen.getByLabelText("Activity: condition"), "is empty");
    expect(now.where).toEqual([[{ field: "name", is: "empty" }]]);
    await userEvent.selectOptions(screen.getByLabelText("Activity: condition"), "does not contain");
    await put("Activity: what to look for", " ");
    expect(screen.getByRole("alert").textContent).toBe("Write what to look for.");
    await put("Activity: what to look for", " pour ");
    expect(now.where).toEqual([[{ field: "name", is: "hasNot", text: "pour" }]]);
  });

  it("grows by and within a group and by or as a group; a group without conditions goes", async () => {
    ask([[LATE]]);
    const and = within(screen.getByText("where", { selector: "span" }).closest("p")!)
      .getAllByRole("combobox")
      .at(-1)!;
    await userEvent.selectOptions(and, "Zone");
    const zone: WatchCondition = { field: "own:Zone", is: "any", of: ["…"] };
    expect(now.where).toEqual([[LATE, zone]]);
    await userEvent.selectOptions(screen.getByLabelText("or where"), "Activity");
    expect(now.where).toEqual([[LATE, zone], [{ field: "name", is: "has", text: "…" }]]);
    for (const left of [2, 1, 0]) {
      await userEvent.click(screen.getAllByTitle("Remove the condition")[0]!);
      expect(now.where.flat()).toHaveLength(left);
    }
    // A group without conditions goes with its last one.
    expect(now.where).toEqual([]);
  });
});
