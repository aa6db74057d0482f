import { ROLES, type Me, type Role } from "@chronometra/contract";
import { ASIDE, HOUSE, placesFor, PROJECT, projectIn, projectTitle, titleOf, whereIs } from "./places.ts";

const someone = (person: string | null, ...roles: Role[]): Me => ({
  id: "1",
  name: "Someone",
  login: "someone",
  roles,
  person,
  timeZone: "UTC",
});
const shown = (me: Me): string[] =>
  placesFor(HOUSE, me).map(({ name, pages }) => `${name}: ${pages.map((page) => page.name).join(", ")}`);

describe("places", () => {
  it("follow the order of the work, and leave out what is not mine to do", () => {
    expect(shown(someone("ann", "contributor"))).toEqual([
      "Desk: My work, My week, Plans",
      "Look: Calendar, Registers",
      "Tell: Inbox, Talk, Mail",
    ]);
    expect(shown(someone(null, "administrator"))).toEqual([
      "Set up: Register, Accounts, Other systems, Interface, History",
      "Tell: Inbox, Talk, Mail",
    ]);
    expect(shown(someone(null, "reader"))).toEqual([
      "Set up: Register, Life cycles, Scale of registers, Exchange rates",
      "Approvals: Approvals",
      "Look: Portfolio, Groups, Roadmap, Deadlines, Calendar, Registers, Load, Watchlists",
      "Tell: Reports, Inbox, Talk, Mail",
      "Cycle: Where projects stand, Not reported",
    ]);
    expect(placesFor(HOUSE, someone("cora", "controller")).map(({ name }) => name)).toEqual([
      "Desk",
      "Set up",
      "Approvals",
      "Collect",
      "Look",
      "Tell",
      "Cycle",
    ]);
  });

  it("have no address twice, and each is found where it lies", () => {
    for (const places of [HOUSE, PROJECT]) {
      const all = places.flatMap(({ pages }) => pages);
      expect(new Set(all.map(({ to }) => to)).size).toBe(all.length);
      for (const page of all) expect(whereIs(places, page.to)?.page).toBe(page);
    }
  });

  it.each([
    ["/", "Portfolio"],
    ["/cycle", "Where projects stand"],
    ["/cycle/lock", "Lock"],
    ["/watch/overdue", "Watchlists"],
    ["/import/7f", "Bring a plan"],
    ["/settings", "Settings"],
    ["/cycles", ""],
    ["/nowhere", ""],
  ])("name %s in the browser's title: %s", (pathname, title) => expect(titleOf(pathname)).toBe(title));

  it.each([
    ["", "Figures"],
    ["plan", "Plan"],
    ["plan/print", "On paper"],
    ["slip/m1", "Slip a milestone"],
    ["whatif/w1", "What if"],
    ["compare", "Compare"],
    ["planet", ""],
  ])("name a project's page %s: %s", (part, title) => expect(projectTitle(part)).toBe(title));

  it("keep a page behind another in its place", () => {
    expect(whereIs(PROJECT, "slip/m1")).toMatchObject({
      place: { name: "Look" },
      page: { name: "Dates" },
      behind: "Slip a milestone",
    });
    expect(whereIs(PROJECT, "dates")).toMatchObject({ behind: null });
  });

  it("know the project of an address", () => {
    expect(projectIn("/projects/p1")).toEqual({ project: "p1", part: "" });
    expect(projectIn("/projects/p1/plan/print/")).toEqual({ project: "p1", part: "plan/print" });
    expect(projectIn("/")).toBeNull();
  });

  it("leave no role without a place to go, nor without a page of settings", () => {
    for (const role of ROLES) expect(placesFor(HOUSE, someone("x", role)).length).toBeGreaterThan(0);
    expect(ASIDE.map(({ to }) => to)).toContain("/settings");
  });
});
