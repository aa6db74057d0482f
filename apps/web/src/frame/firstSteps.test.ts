import type { Me, Role } from "@chronometra/contract";
import { firstSteps, type Known } from "./firstSteps.ts";

const someone = (person: string | null, ...roles: Role[]): Me => ({
  id: "1",
  name: "Someone",
  login: "someone",
  roles,
  person,
  timeZone: "UTC",
});
const NOTHING: Known = { period: undefined, portfolio: undefined, waiting: undefined };
const EMPTY = {
  period: { number: null, steps: [] },
  portfolio: { projects: [], programmes: [] },
  waiting: 0,
} as unknown as Known;
const project = (manager: string, baseline: number | null, closed = false) => ({
  id: `of-${manager}`,
  manager,
  closed,
  waiting: 3,
  summary: { baseline },
});
const AT_WORK = {
  period: {
    number: 3,
    steps: [],
  },
  portfolio: { projects: [project("Someone", null), project("Other", 1)], programmes: [{}] },
  waiting: 2,
} as unknown as Known;

const told = (me: Me, known: Known): string[] =>
  firstSteps(me, known).flatMap(({ role, steps }) =>
    steps.map(({ name, stands, done }) => `${role}: ${name}: ${stands ?? "-"}${done ? " done" : ""}`),
  );

describe("first steps", () => {
  it("begin an empty installation in the order in which it can be done", () => {
    expect(told(someone(null, "controller"), EMPTY)).toEqual([
      "Controller: Bring the plans: none yet",
      "Controller: Group them, and set limits: no group yet",
      "Controller: See that plans are approved: 0 of 0 projects",
      "Controller: Open a reporting period: none is open",
      "Controller: Go through the cycle: -",
    ]);
  });

  it("say of a manager's own projects alone what is still to do, and lead there", () => {
    const [manager] = firstSteps(someone(null, "projectManager"), AT_WORK);
    expect(manager!.steps.map(({ name, to, stands, done }) => [name, to, stands, done])).toEqual([
      ["Have a plan", "/projects/of-Someone/plan", "1 project is yours", true],
      ["Get it approved", "/projects/of-Someone/approvals", "1 not approved yet", false],
      ["Review what people report", "/time", "3 reports wait", false],
      ["Explain what broke a limit", "/cycle?step=Explain", null, false],
    ]);
  });

  it("lead a manager without a project to bringing one, and nowhere else in vain", () => {
    const steps = firstSteps(someone(null, "projectManager"), EMPTY)[0]!.steps;
    expect(steps.map(({ to }) => to)).toEqual(["/import", "/time", "/cycle?step=Explain"]);
  });

  it("have something for everyone, before anything is known as well", () => {
    expect(told(someone("ann", "contributor"), NOTHING)).toHaveLength(3);
    expect(told(someone(null, "approver"), AT_WORK)[0]).toBe("Approver: Decide what waits: 2 wait");
    expect(told(someone(null, "reader"), NOTHING)).toHaveLength(3);
    expect(told(someone(null, "administrator"), NOTHING)).toHaveLength(3);
  });
});
