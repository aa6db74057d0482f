import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useRef } from "react";
import { Navigate, Outlet, useLocation, useNavigation } from "react-router";
import type { Me } from "@chronometra/contract";
import { PeriodBar } from "../cycle/PeriodBar.tsx";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { focusPage, lostFocus } from "../shared/dialogs/focus.ts";
import { MessageRoom } from "../shared/messages/Messages.tsx";
import { Find } from "./find/Find.tsx";
import { FirstVisit } from "./FirstVisit.tsx";
import { PaperHead } from "./PaperHead.tsx";
import { PlaceRow } from "./PlaceRow.tsx";
import { HOUSE, placesFor, projectIn, titleOf, whereIs } from "./places.ts";
import { Unsent } from "./Unsent.tsx";
import { useMenus } from "../shared/dialogs/useMenus.ts";
import { useTitle } from "../shared/page/useTitle.ts";
import { untilFetched } from "../shared/messages/untilFetched.ts";
import { mayLook, sessionQuery, Shown } from "../shared/session/session.ts";

/** Fetched for those who need it: whoever is signed in already goes on without. */
const SignIn = lazy(() => untilFetched(() => import("../access/SignInPage.tsx")));
const SignInAgain = lazy(() => untilFetched(() => import("../access/SignInAgain.tsx")));

/** The places of the whole installation; a project has a row of its own in their stead. */
function Places({ me }: { me: Me }) {
  const { pathname } = useLocation();
  if (projectIn(pathname) !== null) return null;
  return (
    <PlaceRow name="Places" places={placesFor(HOUSE, me)} here={whereIs(HOUSE, pathname)} addressOf={(to) => to} />
  );
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
      <PeriodBar me={me}>
        <Find />
      </PeriodBar>
      <PaperHead />
      <Places me={me} />
      <FirstVisit />
      <Unsent account={me.id} />
      <main id="content" tabIndex={-1} aria-busy={busy} className="relative min-h-0 flex-1 overflow-auto">
        <Outlet />
      </main>
      <MessageRoom />
    </div>
  );
}

/**
 * What stands on every page. When a session runs out, the pages stay as they are, unseen, with all that is typed on
 * them, until their owner has signed in again.
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
