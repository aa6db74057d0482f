/** @jest-environment jsdom */
import type { Register } from "@chronometra/contract";
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../../shared/messages/toast.ts";
import { listen, Refusal, show } from "../../testing/fakePage.tsx";
import { FromRegister, offeredTo } from "./FromRegister.tsx";
import { usedWords } from "./registerParts.ts";
import { RegisterTeams } from "./RegisterLists.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const usedBy = (id: string, same: boolean) => ({ id, code: id, name: id, same, mayEdit: true });
const entry = <T,>(row: T, ...projects: ReturnType<typeof usedBy>[]) => ({
  row,
  changedBy: null,
  changedAt: null,
  projects,
});
const REGISTER: Register = {
  currency: "EUR",
  minorDigits: 2,
  mayWrite: true,
  calendars: [],
  people: [
    entry({ id: "ann", name: "Ann" }, usedBy("p1", true), usedBy("p2", false)),
    entry({ id: "bo", name: "Bo" }, usedBy("p1", false)),
    entry({ id: "cy", name: "Cy" }),
  ],
  teams: [entry({ id: "t1", name: "Divers", members: ["ann"] }, usedBy("p1", true))],
  categories: [],
  missing: { calendars: 0, people: 0, teams: 0, categories: 0 },
};

describe("what the register has for a project", () => {
  it("is what it lacks, then what differs there; what says the same is not offered", () => {
    expect(offeredTo(REGISTER, "people", "p1")).toEqual([
      { id: "cy", name: "Cy", differs: false },
      { id: "bo", name: "Bo", differs: true },
    ]);
    expect(offeredTo(REGISTER, "teams", "p1")).toEqual([]);
  });

  it("is taken over as it is selected, after showing what that would move", async () => {
    const closed = jest.fn();
    const sent = listen(({ to }) =>
      to === "GET /api/register"
        ? REGISTER
        : to.endsWith("/effect")
          ? [{ project: "p1", code: "P1", name: "One", effect: { finish: null, activities: [], milestones: [] } }]
          : [{ project: "p1", revision: 7 }],
    );
    show(<FromRegister project="p1" table="people" onClose={closed} />);
    await userEvent.click(await screen.findByRole("checkbox", { name: /Cy/ }));
    await userEvent.click(screen.getByRole("button", { name: "Show what moves" }));
    await screen.findByText("Nothing moves in P1.");
    await userEvent.click(screen.getByRole("checkbox", { name: /Bo/ }));
    expect(screen.queryByText("Nothing moves in P1.")).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Take 2 over" }));
    await waitFor(() => expect(closed).toHaveBeenCalled());
    expect(sent.find(({ to }) => to === "POST /api/projects/p1/register")!.body).toEqual({
      rows: [
        { table: "people", id: "cy" },
        { table: "people", id: "bo" },
      ],
    });
  });
});

describe("a list of the register", () => {
  beforeEach(() => jest.mocked(toast).mockClear());

  it("stores a team with the members that are written, by name, and says who is nobody", async () => {
    const sent = listen(() => []);
    show(<RegisterTeams register={REGISTER} rates={null} />);
    const field = screen.getByLabelText("Members of Divers");
    await userEvent.clear(field);
    await userEvent.type(field, "ann; Nobody{Enter}");
    await screen.findByText(/“Nobody” is nobody of the register/);
    expect(sent).toEqual([]);
    await userEvent.clear(field);
    await userEvent.type(field, "ann; CY{Enter}");
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]!.body).toEqual({
      change: { table: "teams", row: { id: "t1", name: "Divers", members: ["ann", "cy"] } },
      seen: { id: "t1", name: "Divers", members: ["ann"] },
      projects: [],
    });
  });

  it("is taken back by its undo: a change is written back, what was removed comes again, what is new goes", async () => {
    const sent = listen(() => []);
    show(<RegisterTeams register={REGISTER} rates={null} />);
    const undo = async (): Promise<void> => {
      await waitFor(() => expect(toast).toHaveBeenCalled());
      const { action } = jest.mocked(toast).mock.calls.at(-1)![1] as unknown as { action: { onClick: () => void } };
      jest.mocked(toast).mockClear();
      sent.length = 0;
      action.onClick();
      await waitFor(() => expect(toast).toHaveBeenCalledWith("It is as it was before."));
      jest.mocked(toast).mockClear();
    };
    const team = { id: "t1", name: "Divers", members: ["ann"] };
    await userEvent.type(screen.getByLabelText("Name of Divers"), " two{Enter}");
    await undo();
    expect(sent[0]!.body).toEqual({
      change: { table: "teams", row: team },
      seen: { ...team, name: "Divers two" },
      projects: [],
    });
    await userEvent.click(screen.getByRole("button", { name: "Remove Divers from the register" }));
    await undo();
    expect(sent[0]!.body).toEqual({ change: { table: "teams", row: team }, seen: null, projects: [] });
    await userEvent.type(screen.getByLabelText("Add a team"), "Riggers{Enter}");
    await undo();
    expect(sent[0]!.to).toMatch(/^DELETE \/api\/register\/teams\/t-/);
  });

  it("shows beside the field what the server refuses", async () => {
    listen(() => new Refusal("Team Divers was changed by someone else meanwhile.", 409, "conflict"));
    show(<RegisterTeams register={REGISTER} rates={null} />);
    await userEvent.type(screen.getByLabelText("Name of Divers"), " two{Enter}");
    await screen.findByText(/changed by someone else meanwhile/);
  });

  it("tells where a row is used", () => {
    expect(usedWords([])).toBe("");
    expect(usedWords([{ same: true }])).toBe("1 project");
    expect(usedWords([{ same: true }, { same: false }])).toBe("2 projects, differs in 1");
  });
});
