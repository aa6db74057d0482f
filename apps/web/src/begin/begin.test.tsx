/** @jest-environment jsdom */
import type { BeginAsked, BeginEffectAsked, BegunEffect, Portfolio, Register, Template } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show, someone, type Sent } from "../testing/fakePage.tsx";
import { FromPage } from "./FromPage.tsx";
import { handSource, milestoneFault, monthsBetween, newStage, stageFault } from "./handRows.ts";
import { HandPage } from "./HandPage.tsx";
import { StepsPage } from "./StepsPage.tsx";
import { TemplatesPage } from "./templates/TemplatesPage.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const EFFECT: BegunEffect = {
  start: "2027-01-11",
  finish: "2027-01-29",
  currency: "EUR",
  minorDigits: 2,
  activities: 2,
  milestones: 1,
  links: 2,
  workMinutes: 960,
  costMinor: 120_000,
  roles: [
    { id: "who-1", name: "Ann" },
    { id: "who-2", name: "Diver" },
  ],
  people: [],
  repeats: [{ part: 0, activity: "s", name: "Section", ask: "How many sections?" }],
  rows: [
    {
      id: "a",
      name: "Draw",
      depth: 0,
      kind: "work",
      start: "2027-01-11",
      finish: "2027-01-12",
      durationMinutes: 960,
      dayMinutes: 480,
      critical: true,
      parked: false,
      who: ["Ann"],
    },
  ],
};
const REGISTER = {
  people: [
    { row: { id: "ann", name: "Ann", role: "Draughtswoman" }, projects: [] },
    { row: { id: "bob", name: "Bob" }, projects: [] },
  ],
} as unknown as Register;
const PORTFOLIO = {
  programmes: [{ id: "locks", name: "Locks", parent: null }],
  projects: [{ id: "p", code: "P-1", name: "Pier" }],
} as unknown as Portfolio;
const TEMPLATE: Template = {
  id: "t",
  name: "Pier of sections",
  description: "For piers",
  repeats: [{ activity: "s", ask: "How many sections?", inTurn: true }],
  by: "Tomas",
  at: "2026-11-03T10:00:00Z",
  currency: "EUR",
  activities: 3,
  milestones: 1,
  roles: 2,
  branches: [{ id: "s", name: "Section" }],
  mayEdit: true,
};

function open(page: React.ReactNode, at: string, answer: (sent: Sent) => unknown = () => undefined) {
  window.history.replaceState(null, "", at);
  const all = listen((sent) => {
    const said = answer(sent);
    if (said !== undefined) return said;
    if (sent.to === "GET /api/register") return REGISTER;
    if (sent.to === "GET /api/portfolio") return PORTFOLIO;
    if (sent.to.includes("/api/templates")) return [TEMPLATE];
    if (sent.to === "POST /api/begin/effect") return EFFECT;
    if (sent.to === "POST /api/begin") return { project: "new" };
    return {};
  });
  show(page, { me: someone("projectManager"), at });
  return <T,>(to: string) => all.flatMap((sent) => (sent.to === to ? [sent.body as T] : []));
}
const day = async (date: string): Promise<void> => {
  await userEvent.type(screen.getByLabelText("Day"), date);
  await userEvent.tab();
};
const call = async (code: string, name: string): Promise<void> => {
  await userEvent.type(screen.getByLabelText("Code"), code);
  await userEvent.type(screen.getByRole("textbox", { name: "Name" }), name);
  await userEvent.click(screen.getByRole("button", { name: "Begin" }));
};

describe("beginning in three steps", () => {
  it("shows what it comes to as soon as one thing, its duration and a day are said", async () => {
    const sent = open(<StepsPage />, "/begin/steps");
    expect(screen.getByText(/Say one thing that has to be done/)).toBeTruthy();
    await userEvent.type(screen.getByLabelText("What, 1"), "Draw");
    expect(screen.getByRole("alert").textContent).toContain("Say how long");
    await userEvent.type(screen.getByLabelText("How long, 1"), "2d");
    await userEvent.type(screen.getByLabelText("What, 2"), "Paint");
    await userEvent.type(screen.getByLabelText("How long, 2"), "4h");
    await userEvent.selectOptions(screen.getByLabelText("When, 2"), "beside the one above");
    await day("11 Jan 2027");
    expect(await screen.findByText("29 Jan 2027", { selector: "strong" })).toBeTruthy();
    expect(sent<BeginEffectAsked>("POST /api/begin/effect").at(-1)).toMatchObject({
      parts: [
        {
          source: {
            currency: "EUR",
            steps: [
              { name: "Draw", minutes: 960, after: true },
              { name: "Paint", minutes: 240, after: false },
            ],
          },
        },
      ],
      date: { start: "2027-01-11" },
    });
  });

  it("takes people of the register by their names, and goes to the plan", async () => {
    const sent = open(<StepsPage />, "/begin/steps");
    await userEvent.type(screen.getByLabelText("Purpose"), "Ships find it");
    await userEvent.type(screen.getByLabelText(/What comes out/), "Signs{Enter}  {Enter}A list");
    await userEvent.type(screen.getByLabelText("What, 1"), "Draw");
    await userEvent.type(screen.getByLabelText("How long, 1"), "2d");
    await day("11 Jan 2027");
    const ann = await screen.findByLabelText<HTMLSelectElement>("Ann");
    expect(ann.value).toBe("ann");
    expect(screen.getByLabelText<HTMLSelectElement>("Diver").value).toBe("");
    await userEvent.selectOptions(ann, "kept open");
    await userEvent.selectOptions(screen.getByLabelText("Diver"), "Bob");
    await call("S-1", "Signs");
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/projects/new/plan"));
    expect(sent<BeginAsked>("POST /api/begin")).toMatchObject([
      {
        code: "S-1",
        name: "Signs",
        programme: null,
        roles: { "who-2": "bob" },
        purpose: "Ships find it",
        deliverables: ["Signs", "A list"],
      },
    ]);
  });
});

describe("beginning with a template or a project", () => {
  it("asks what the template asks, and shows the plan anew", async () => {
    const sent = open(<FromPage />, "/begin/from?with=template:t");
    await screen.findByLabelText("Begin with");
    await day("11 Jan 2027");
    const times = await screen.findByLabelText(/How many sections/);
    await userEvent.clear(times);
    await userEvent.type(times, "3");
    await waitFor(() =>
      expect(sent<BeginEffectAsked>("POST /api/begin/effect").at(-1)!.parts).toEqual([
        { source: { template: "t" }, times: { s: 3 } },
      ]),
    );
    await userEvent.selectOptions(screen.getByLabelText("Dates are found"), "is to be finished by");
    await waitFor(() =>
      expect(sent<BeginEffectAsked>("POST /api/begin/effect").at(-1)!.date).toEqual({ finish: "2027-01-11" }),
    );
  });

  it("tells why it cannot be, and where its code is taken", async () => {
    open(<FromPage />, "/begin/from?with=project:p", ({ to }) =>
      to === "POST /api/begin/effect"
        ? new Refusal("It cannot be finished by 1 Dec 2026.")
        : to === "POST /api/begin"
          ? new Refusal("A project with the code exists already.", 409, "conflict")
          : undefined,
    );
    await screen.findByLabelText("Begin with");
    await day("1 Dec 2026");
    expect(await screen.findByText(/cannot be finished by/)).toBeTruthy();
    await call("P-1", "Pier");
    expect(await screen.findByText(/exists already/)).toBeTruthy();
  });
});

describe("templates", () => {
  it("are changed where they are listed, and removed after it was said what stays", async () => {
    const sent = open(<TemplatesPage />, "/set-up/templates");
    await userEvent.click(await screen.findByRole("button", { name: "Change Pier of sections" }));
    const dialog = within(screen.getByRole("dialog", { name: "Template Pier of sections" }));
    const ask = dialog.getByLabelText("What is asked about Section");
    await userEvent.clear(ask);
    await userEvent.type(ask, "Sections?");
    await userEvent.click(dialog.getByRole("button", { name: "Save" }));
    await waitFor(() =>
      expect(sent("PUT /api/templates/t")).toEqual([
        {
          name: "Pier of sections",
          description: "For piers",
          repeats: [{ activity: "s", ask: "Sections?", inTurn: true }],
        },
      ]),
    );
    await userEvent.click(await screen.findByRole("button", { name: "Remove Pier of sections" }));
    const doom = within(screen.getByRole("dialog", { name: "Remove the template Pier of sections" }));
    expect(doom.getByText(/What was begun with it stays/)).toBeTruthy();
    await userEvent.click(doom.getByRole("button", { name: "Remove" }));
    await waitFor(() => expect(sent("DELETE /api/templates/t")).toHaveLength(1));
  });
});

describe("beginning without a plan", () => {
  it("makes a stage of each month, and counts in the digits of the currency", async () => {
    const sent = open(<HandPage />, "/begin/by-hand");
    await userEvent.type(screen.getByLabelText("Months from"), "15 Feb 2027");
    await userEvent.tab();
    await userEvent.type(screen.getByLabelText("Months to"), "3 Apr 2027");
    await userEvent.tab();
    await userEvent.click(screen.getByRole("button", { name: "Add 3 months" }));
    await userEvent.type(screen.getByLabelText("Budget, 1"), "12 000");
    await userEvent.clear(screen.getByLabelText("Currency"));
    await userEvent.type(screen.getByLabelText("Currency"), "jpy");
    await waitFor(() =>
      expect(sent<BeginEffectAsked>("POST /api/begin/effect").at(-1)).toMatchObject({
        parts: [{ source: { currency: "JPY", stages: [{ name: "Feb 2027", budgetMinor: 12_000 }, {}, {}] } }],
        date: { asIs: true },
      }),
    );
  });

  it("cuts the first and last month at the days that are said", () => {
    const days = monthsBetween("2026-12-15", "2027-02-03").map(({ name, from, to }) => `${name}: ${from} to ${to}`);
    expect(days).toEqual([
      "Dec 2026: 2026-12-15 to 2026-12-31",
      "Jan 2027: 2027-01-01 to 2027-01-31",
      "Feb 2027: 2027-02-01 to 2027-02-03",
    ]);
    expect(monthsBetween("2027-02-03", "2026-12-15")).toEqual([]);
    expect(monthsBetween("", "2026-12-15")).toEqual([]);
    expect(monthsBetween("2020-01-01", "2099-12-31")).toHaveLength(120);
  });

  it("says what is wrong with which line, and nothing of lines in which nothing is typed", () => {
    const stage = { ...newStage(), name: "Feb", from: "2027-02-01", to: "2027-02-28", budget: "1.005" };
    expect(stageFault(newStage(), "EUR")).toBeNull();
    expect(stageFault(stage, "EUR")).toContain("amount");
    expect(stageFault(stage, "KWD")).toBeNull();
    expect(stageFault({ ...stage, to: "2027-01-01" }, "KWD")).toContain("before it begins");
    expect(stageFault({ ...stage, name: "" }, "KWD")).toContain("name");
    expect(milestoneFault({ id: "m", name: "Open", date: "" })).toContain("which day");
    expect(handSource([newStage()], [], "EUR")).toBeNull();
    expect(handSource([stage], [], "EUR")).toBeNull();
    expect(handSource([stage], [{ id: "m", name: "", date: "" }], "KWD")).toMatchObject({
      stages: [{ budgetMinor: 1005 }],
      milestones: [],
    });
  });
});
