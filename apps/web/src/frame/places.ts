import type { Me } from "@chronometra/contract";
import { holds, holdsEverywhere, mayLook } from "../shared/session/session.ts";

/** A page of a place; of a project's, `to` is the part of the address after the project's, "" for its first page. */
export interface PlacePage {
  readonly to: string;
  readonly name: string;
  readonly open?: (me: Me) => boolean;
  /** Pages that lie behind it, by the beginning of their address, with what they are called. */
  readonly behind?: Readonly<Record<string, string>>;
}

/** A step of the work, in the order of the work, with its pages. */
export interface Place {
  readonly name: string;
  readonly pages: readonly PlacePage[];
}

const mayPlan = (me: Me): boolean => holds(me, "controller", "projectManager");
const isController = (me: Me): boolean => holds(me, "controller");
const isAdministrator = (me: Me): boolean => holds(me, "administrator");

/**
 * All that is not of one project: what is set up, approved, collected, looked at, told; and the cycle, which goes
 * through all of it.
 */
export const HOUSE: readonly Place[] = [
  {
    name: "Desk",
    pages: [
      { to: "/desk", name: "My work", open: ({ person }) => person !== null },
      { to: "/desk/week", name: "My week", open: ({ person }) => person !== null },
      { to: "/desk/plans", name: "Plans", open: ({ person }) => person !== null },
    ],
  },
  {
    name: "Set up",
    pages: [
      {
        to: "/begin",
        name: "Begin a project",
        open: mayPlan,
        behind: {
          "/begin/steps": "In three steps",
          "/begin/from": "With a template or a project",
          "/begin/by-hand": "Without a plan",
        },
      },
      { to: "/import", name: "Bring a plan", open: mayPlan },
      { to: "/set-up/templates", name: "Templates", open: mayPlan },
      { to: "/set-up/register", name: "Register", open: (me) => mayLook(me) || isAdministrator(me) },
      { to: "/set-up/life-cycles", name: "Life cycles", open: mayLook },
      { to: "/set-up/registers", name: "Scale of registers", open: mayLook },
      { to: "/set-up/groups", name: "Groups and limits", open: isController },
      { to: "/set-up/rates", name: "Exchange rates", open: mayLook },
      { to: "/set-up/accounts", name: "Accounts", open: isAdministrator },
      { to: "/set-up/systems", name: "Other systems", open: isAdministrator },
      { to: "/set-up/interface", name: "Interface", open: isAdministrator },
      {
        to: "/set-up/history",
        name: "History",
        open: (me) => holdsEverywhere(me, "controller") || isAdministrator(me),
      },
    ],
  },
  { name: "Approve", pages: [{ to: "/approvals", name: "Approvals", open: mayLook }] },
  {
    name: "Collect",
    pages: [
      { to: "/time", name: "Time to review", open: mayPlan },
      { to: "/time/people", name: "People’s weeks", open: mayPlan },
      { to: "/time/costs", name: "Costs and outside time", open: mayPlan },
      { to: "/time/blocked", name: "Blocked", open: mayPlan },
    ],
  },
  {
    name: "Look",
    pages: [
      { to: "/", name: "Portfolio", open: mayLook },
      { to: "/groups", name: "Groups", open: mayLook },
      { to: "/roadmap", name: "Roadmap", open: mayLook },
      { to: "/deadlines", name: "Deadlines", open: mayLook },
      { to: "/calendar", name: "Calendar", open: (me) => mayLook(me) || me.person !== null },
      { to: "/registers", name: "Registers", open: (me) => mayLook(me) || me.person !== null },
      { to: "/load", name: "Load", open: mayLook },
      { to: "/watch", name: "Watchlists", open: mayLook },
    ],
  },
  {
    name: "Tell",
    pages: [
      { to: "/reports", name: "Reports", open: mayLook },
      { to: "/inbox", name: "Inbox" },
      { to: "/talk", name: "Talk" },
      { to: "/mail", name: "Mail" },
    ],
  },
  {
    name: "Cycle",
    pages: [
      { to: "/cycle", name: "Where projects stand", open: mayLook },
      { to: "/cycle/missing", name: "Not reported", open: mayLook },
      { to: "/cycle/data-dates", name: "Data dates", open: isController },
      { to: "/cycle/lock", name: "Lock", open: isController },
    ],
  },
];

/** The same order for one project. */
export const PROJECT: readonly Place[] = [
  {
    name: "Set up",
    pages: [
      { to: "charter", name: "Charter" },
      { to: "resources", name: "Resources" },
      { to: "closing", name: "Closing" },
    ],
  },
  {
    name: "Plan",
    pages: [
      { to: "plan", name: "Plan", behind: { "plan/print": "On paper" } },
      { to: "timeboxes", name: "Timeboxes" },
    ],
  },
  {
    name: "Approve",
    pages: [
      { to: "approvals", name: "Approvals", behind: { whatif: "What if", compare: "Compare" } },
      { to: "stages", name: "Stages and gates" },
    ],
  },
  {
    name: "Collect",
    pages: [
      { to: "registers", name: "Registers" },
      { to: "board", name: "Board" },
    ],
  },
  {
    name: "Look",
    pages: [
      { to: "", name: "Figures" },
      { to: "performance", name: "Performance" },
      { to: "dates", name: "Dates", behind: { slip: "Slip a milestone", milestones: "What a milestone gathers" } },
      { to: "chances", name: "Chances" },
      { to: "trust", name: "Trust" },
    ],
  },
  {
    name: "Tell",
    pages: [
      { to: "report", name: "Report" },
      { to: "talk", name: "Talk" },
      { to: "history", name: "History", behind: { then: "As it was" } },
    ],
  },
];

/** Pages that stand in no place. */
export const ASIDE: readonly PlacePage[] = [
  { to: "/settings", name: "Settings" },
  { to: "/keys", name: "Keys" },
  { to: "/first-steps", name: "First steps" },
];

/** The places in which something is for someone; one that has a single page for them is called as that page. */
export function placesFor(places: readonly Place[], me: Me): Place[] {
  return places.flatMap(({ name, pages }) => {
    const open = pages.filter((page) => page.open?.(me) !== false);
    if (open.length === 0) return [];
    return [{ name: open.length === 1 ? open[0]!.name : name, pages: open }];
  });
}

const lies = (address: string, under: string): boolean =>
  address === under || (under !== "" && under !== "/" && address.startsWith(`${under}/`));

/** Where an address lies: the page it is, or the one it lies behind. */
export interface Here {
  readonly place: Place;
  readonly page: PlacePage;
  /** What the page behind that page is called. */
  readonly behind: string | null;
}

/**
 * @param address a path, for a project's pages the part after the project's
 * @returns the place with the longest address that the path begins with; `null` of a page that is in none
 */
export function whereIs(places: readonly Place[], address: string): Here | null {
  let found: (Here & { length: number }) | null = null;
  for (const place of places) {
    for (const page of place.pages) {
      const ways: readonly (readonly [string, string | null])[] = [
        [page.to, null],
        ...Object.entries(page.behind ?? {}),
      ];
      for (const [to, behind] of ways)
        if (lies(address, to) && (found === null || to.length > found.length))
          found = { place, page, behind, length: to.length };
    }
  }
  return found;
}

/** The project in an address, and the part of the address after it. */
export function projectIn(pathname: string): { project: string; part: string } | null {
  const match = /^\/projects\/([^/]+)(?:\/(.*))?$/.exec(pathname);
  return match === null ? null : { project: match[1]!, part: (match[2] ?? "").replace(/\/$/, "") };
}

/** What a page is called; `null` of a project's pages, which say so themselves. */
export function titleOf(pathname: string): string | null {
  if (projectIn(pathname) !== null) return null;
  const aside = ASIDE.find(({ to }) => lies(pathname, to));
  return aside?.name ?? whereIs(HOUSE, pathname)?.page.name ?? "";
}

/** What a page of a project is called, without the project. */
export function projectTitle(part: string): string {
  const here = whereIs(PROJECT, part);
  return here?.behind ?? here?.page.name ?? "";
}
