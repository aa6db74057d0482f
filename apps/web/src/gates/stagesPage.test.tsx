/** @jest-environment jsdom */
import type { Gate, GateEvent, ProjectGates, WriteGates } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../shared/messages/toast.ts";
import { listen, Refusal, show, someone, type Sent } from "../testing/fakePage.tsx";
import { StagesPage } from "./StagesPage.tsx";
import { standingWords } from "./StageTrack.tsx";

jest.mock("../documents/DocumentList.tsx", () => ({ DocumentList: () => null }));
jest.mock("../documents/DocumentsButton.tsx", () => ({ DocumentsButton: () => null }));
jest.mock("../talk/TalkButton.tsx", () => ({ TalkButton: () => null }));
jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const gate = (stage: string, standing: Gate["standing"], extra: Partial<Gate> = {}): Gate => ({
  stage,
  name: `Stage ${stage}`,
  gate: `Gate ${stage}`,
  standing,
  due: null,
  dueOn: null,
  decider: null,
  conditions: [],
  passed: null,
  ...extra,
});
const PERMIT = { id: "permit", kind: "confirmed", words: "The permit is here", met: false, says: "Nobody yet." };
const COST = { id: "cost", kind: "cost", words: "Within the budget", met: true, says: "The estimate is the budget." };
const event = (id: number, act: GateEvent["act"], extra: Partial<GateEvent> = {}): GateEvent => ({
  id,
  stage: "a",
  stageName: "Stage a",
  gate: "Gate a",
  act,
  by: "Tomas",
  at: "2026-11-03T10:00:00Z",
  word: "",
  conditions: [],
  actions: [],
  ...extra,
});
const VIEW: ProjectGates = {
  lifeCycle: { id: "new", kind: "New" },
  lifeCycles: [
    { id: "new", kind: "New" },
    { id: "old", kind: "Renewal" },
  ],
  gates: [gate("a", "here", { conditions: [PERMIT, COST] }), gate("b", "ahead")],
  asked: null,
  events: [],
  milestones: [{ id: "open", name: "Open" }],
  deciders: [{ id: "m", name: "Margit" }],
  mayEdit: true,
  mayConfirm: true,
  mayDecide: false,
  whyNot: null,
};

function open(view: ProjectGates = VIEW, answer: (sent: Sent) => unknown = () => undefined) {
  jest.mocked(toast).mockClear();
  jest.mocked(toast.error).mockClear();
  let now = view;
  const all = listen((sent) => {
    const said = answer(sent);
    if (said instanceof Refusal) return said;
    if (said !== undefined) now = said as ProjectGates;
    return now;
  });
  show(<StagesPage />, { me: someone("projectManager"), project: { id: "p" } });
  return (to: string) => all.flatMap((sent) => (sent.to === to ? [sent.body] : []));
}
const PUT = "PUT /api/projects/p/gates";

describe("the stages of a project", () => {
  it("stand one after another, the one it is in said; another is looked at by its place in the address", async () => {
    open();
    const stages = within(await screen.findByRole("list", { name: "Stages" }));
    expect(stages.getAllByRole("listitem").map((each) => each.getAttribute("aria-current"))).toEqual(["step", null]);
    expect(screen.getByRole("region", { name: "Gate Gate a" })).toBeTruthy();
    await userEvent.click(stages.getByRole("button", { name: /Stage b/ }));
    expect(screen.getByLabelText("address").textContent).toContain("stage=b");
    expect(screen.getByText(/once the gates before it are passed/)).toBeTruthy();
  });

  it("are chosen by the kind of project; without any, it is said who writes them", async () => {
    const sent = open({ ...VIEW, lifeCycle: null, gates: [] });
    await userEvent.selectOptions(await screen.findByLabelText(/Life cycle/), "Renewal");
    expect(sent(PUT)).toEqual([{ field: "lifeCycle", was: null, value: "old" }] satisfies WriteGates[]);
    await waitFor(() => expect(toast).toHaveBeenCalled());
    const [, options] = jest.mocked(toast).mock.calls[0]! as unknown as [string, { action: { onClick: () => void } }];
    options.action.onClick();
    await waitFor(() => expect(sent(PUT).at(-1)).toEqual({ field: "lifeCycle", was: "old", value: null }));
  });

  it("tell who writes life cycles where there are none", async () => {
    open({ ...VIEW, lifeCycle: null, lifeCycles: [], gates: [] });
    expect(await screen.findByText(/There are no life cycles yet/)).toBeTruthy();
  });

  it("say in words where each gate stands", () => {
    const due = (overdue: boolean): Gate["dueOn"] => ({ date: "2026-12-01", approved: null, overdue });
    expect(standingWords(gate("a", "here"), false)).toBe("comes next");
    expect(standingWords(gate("a", "here"), true)).toBe("waits for a decision");
    expect(standingWords(gate("a", "ahead", { dueOn: due(false) }), false)).toBe("due 1 Dec 2026");
    expect(standingWords(gate("a", "here", { dueOn: due(true) }), false)).toBe("was due 1 Dec 2026");
    expect(standingWords(gate("a", "passed", { passed: event(1, "conditional") }), false)).toContain(
      "passed with conditions, 3 Nov 2026",
    );
  });
});

describe("a gate", () => {
  it("is asked for with a word where something is missing", async () => {
    const sent = open(VIEW, ({ to }) =>
      to.startsWith("POST") ? { ...VIEW, asked: event(7, "asked", { word: "Monday" }) } : undefined,
    );
    const ask = await screen.findByRole<HTMLButtonElement>("button", { name: "Ask for this gate" });
    expect(ask.disabled).toBe(true);
    await userEvent.type(screen.getByLabelText(/Why it is asked for all the same: 1 not met/), "Monday");
    await userEvent.click(ask);
    expect(sent("POST /api/projects/p/gates/a")).toEqual([{ word: "Monday" }]);
    expect(await screen.findByRole("button", { name: "Withdraw what is asked" })).toBeTruthy();
    expect(screen.queryByRole("form", { name: "Decide" })).toBeNull();
  });

  it("takes a confirmation, a day, a milestone and who decides, each with what was seen", async () => {
    const sent = open();
    await userEvent.click(await screen.findByRole("button", { name: "Confirm: The permit is here" }));
    await userEvent.selectOptions(screen.getByLabelText("Due"), "Open");
    await userEvent.selectOptions(screen.getByLabelText("Decided by"), "Margit");
    await waitFor(() =>
      expect(sent(PUT)).toEqual([
        { field: "confirmed", stage: "a", condition: "permit", was: false, value: true },
        { field: "due", stage: "a", was: null, value: { activity: "open" } },
        { field: "decider", stage: "a", was: null, value: "m" },
      ]),
    );
    expect(screen.queryByRole("button", { name: /Within the budget/ })).toBeNull();
  });

  it("is passed with conditions only, while something is missing; what is missing is proposed as work", async () => {
    const sent = open({ ...VIEW, mayEdit: false, mayDecide: true, asked: event(7, "asked") });
    const form = within(await screen.findByRole("form", { name: "Decide" }));
    expect(form.getByRole<HTMLInputElement>("radio", { name: /^Pass not while/ }).disabled).toBe(true);
    expect(form.getByLabelText<HTMLInputElement>("What is to be done, 1").value).toBe("The permit is here");
    await userEvent.type(form.getByLabelText("By whom, 1"), "Tomas");
    await userEvent.click(form.getByRole("button", { name: /One more/ }));
    await userEvent.type(form.getByLabelText("A word with it"), "Go on");
    await userEvent.click(form.getByRole("button", { name: "Pass with conditions" }));
    await waitFor(() =>
      expect(sent("POST /api/projects/p/gates/a/decision")).toEqual([
        {
          asked: 7,
          decision: "conditional",
          word: "Go on",
          actions: [{ what: "The permit is here", owner: "Tomas", due: null }],
        },
      ]),
    );
  });

  it("says what cannot be where it is decided, and that it was decided meanwhile", async () => {
    const met = [gate("a", "here", { conditions: [COST] })];
    open({ ...VIEW, gates: met, mayDecide: true, asked: event(7, "asked") }, ({ to }) =>
      to.startsWith("POST") ? new Refusal("What was asked has been decided meanwhile.", 409, "conflict") : undefined,
    );
    const form = within(await screen.findByRole("form", { name: "Decide" }));
    await userEvent.type(form.getByLabelText("A word with it"), "Yes");
    await userEvent.click(form.getByRole("button", { name: "Pass" }));
    // The form may be gone by then, with what stands there now in its place.
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith("What was asked has been decided meanwhile."));
    expect((await form.findByRole("alert")).textContent).toContain("decided meanwhile");
  });

  it("shows what stood when it was passed, and what it asked for", async () => {
    const action = { id: "x", what: "Bring it", owner: "", due: "2020-01-01", doneOn: null, doneBy: null };
    const passed = event(3, "conditional", { conditions: [PERMIT], actions: [action] });
    const sent = open({ ...VIEW, gates: [gate("a", "passed", { passed, conditions: [PERMIT] })], events: [passed] });
    expect(await screen.findByText("All gates of this project are passed.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /Confirm/ })).toBeNull();
    const table = within(screen.getByRole("table", { name: "To be done after gates" }));
    expect(table.getByText("overdue")).toBeTruthy();
    await userEvent.click(table.getByRole("button", { name: "Done: Bring it" }));
    expect(sent("PUT /api/matters/x")).toEqual([{ writes: [{ field: "state", was: "open", value: "settled" }] }]);
  });
});
