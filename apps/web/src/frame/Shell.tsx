import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useRef } from "react";
import { NavLink, Navigate, Outlet, useLocation, useNavigation } from "react-router";
import type { Me } from "@chronometra/contract";
import { PeriodBar } from "../cycle/PeriodBar.tsx";
import { Failure } from "../shared/Failure.tsx";
import { focusPage, lostFocus } from "../shared/focus.ts";
import { MessageRoom } from "../shared/MessageRoom.tsx";
import { PaperHead } from "./PaperHead.tsx";
import { Unsent } from "./Unsent.tsx";
import { useMenus } from "../shared/useMenus.ts";
import { useTitle } from "../shared/useTitle.ts";
import { holds, mayLook, sessionQuery, Shown } from "../shared/session.ts";

/** Fetched for those who need it: whoever is signed in already goes on without. */
const SignIn = lazy(() => import("../access/SignIn.tsx"));
const SignInAgain = lazy(() => import("../access/SignInAgain.tsx"));

interface Place {
  readonly to: string;
  readonly name: string;
  readonly open: (me: Me) => boolean;
  /** Addresses that belong to the place besides its own. */
  readonly also?: readonly string[];
}

const PLACES: readonly Place[] = [
  { to: "/", name: "Portfolio", open: mayLook, also: ["/projects", "/deadlines", "/load"] },
  { to: "/cycle", name: "Cycle", open: mayLook },
  { to: "/desk", name: "Desk", open: (me) => me.person !== null },
  { to: "/time", name: "Time", open: (me) => holds(me, "controller", "projectManager") },
  { to: "/watch", name: "Watchlists", open: mayLook },
  { to: "/approvals", name: "Approvals", open: mayLook },
  { to: "/import", name: "Bring a plan", open: (me) => holds(me, "controller", "projectManager") },
  { to: "/mail", name: "Mail", open: () => true },
  { to: "/settings", name: "Settings", open: () => true },
];

function Places({ me }: { me: Me }) {
  const { pathname } = useLocation();
  return (
    <nav aria-label="Places" className="flex gap-5 overflow-x-auto bg-base-200 px-5">
      {PLACES.filter((place) => place.open(me)).map(({ to, name, also }) => (
        <NavLink
          key={to}
          to={to}
          end={to === "/"}
          className={({ isActive }) =>
            `border-b-2 py-1 whitespace-nowrap ${isActive || also?.some((each) => pathname.startsWith(each)) === true ? "border-accent font-semibold" : "border-transparent muted hover:border-base-300"}`
          }
        >
          {name}
        </NavLink>
      ))}
    </nav>
  );
}

/** Pages that are named otherwise than the place they lie in. */
const PAGES: Readonly<Record<string, string>> = {
  "/deadlines": "Deadlines",
  "/keys": "Keys",
  "/load": "Load",
  "/cycle/missing": "Not reported",
  "/cycle/lock": "Lock the period",
  "/cycle/data-dates": "Move data dates",
  "/desk/week": "My week",
  "/time": "Time to review",
  "/time/people": "People’s weeks",
  "/time/costs": "Costs and outside time",
  "/time/blocked": "Blocked",
};

/** What a page is called; `null` of a project's pages, which say so themselves. */
export function titleOf(pathname: string): string | null {
  if (pathname.startsWith("/projects/")) return null;
  const named =
    PAGES[pathname] ??
    PLACES.find(({ to }) => (to === "/" ? pathname === "/" : pathname === to || pathname.startsWith(`${to}/`)))?.name;
  return named ?? "";
}

/** What stands there until it is known who is signed in; the document begins with the same. */
export const FirstBar = () => <header className="first-bar">Chronometra</header>;

/** Whoever followed a link that is gone with its page works on in the new one, not at the top of everything. */
function useFocusOnPage(busy: boolean): void {
  const { pathname } = useLocation();
  const first = useRef(true);
  useEffect(() => {
    if (busy) return;
    if (!first.current && lostFocus()) focusPage();
    first.current = false;
  }, [pathname, busy]);
}

/** The period bar, the places, and one of them. */
function Pages({ me }: { me: Me }) {
  const busy = useNavigation().state === "loading";
  useFocusOnPage(busy);
  return (
    <div className="flex h-full flex-col">
      <a href="#content" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-base-100 focus:p-2">
        Go to the content
      </a>
      <PeriodBar me={me} />
      <PaperHead />
      <Places me={me} />
      <Unsent account={me.id} />
      <main id="content" tabIndex={-1} aria-busy={busy} className="min-h-0 flex-1 overflow-auto">
        <Outlet />
      </main>
      <MessageRoom />
    </div>
  );
}

/**
 * What stands on every page. When a session runs out, the pages stay as they are, unseen, with all that is typed on them, until
 * their owner has signed in again.
 */
export function Shell() {
  const session = useQuery(sessionQuery);
  const { pathname } = useLocation();
  useMenus();
  const shown = session.data?.me ?? session.data?.ended ?? null;
  useTitle(shown === null ? "" : titleOf(pathname));
  if (session.error !== null && session.data === undefined)
    return (
      <div className="page">
        <Failure error={session.error} onAgain={() => void session.refetch()} />
      </div>
    );
  if (session.data === undefined) return <FirstBar />;
  if (shown === null)
    return (
      <Suspense>
        <SignIn />
      </Suspense>
    );
  if (pathname === "/" && !mayLook(shown))
    return <Navigate to={shown.person === null ? "/settings" : "/desk"} replace />;
  const { ended } = session.data;
  return (
    <Shown value={shown}>
      <div key={shown.id} className={`h-full ${ended === null ? "" : "invisible"}`}>
        <Pages me={shown} />
      </div>
      {ended !== null && (
        <Suspense>
          <SignInAgain me={ended} />
        </Suspense>
      )}
    </Shown>
  );
}
