import { useEffect, useState, useSyncExternalStore } from "react";
import { Link, useLocation } from "react-router";
import { plansWaiting } from "../plan/engine/session/browserKeeper.ts";
import { endOthers, onUnsent, unsentLists } from "../plan/engine/session/usePlanSession.ts";
import { countWords } from "../shared/words/words.ts";

/** The page of a plan, `project`, or of a what-if beside it, `project~whatif`. */
function addressOf(plan: string): string {
  const [project, whatIf] = plan.split("~") as [string, string?];
  return `/projects/${project}/${whatIf === undefined ? "plan" : `whatif/${whatIf}`}`;
}

/** Asks before the page is closed while something of it has not been stored. */
function useAskBeforeLeaving(unsent: number): void {
  useEffect(() => {
    if (unsent === 0) return undefined;
    const ask = (event: BeforeUnloadEvent): void => event.preventDefault();
    addEventListener("beforeunload", ask);
    return () => removeEventListener("beforeunload", ask);
  }, [unsent]);
}

/**
 * On every page: that changes to a plan have not reached the server, where they were left or kept from an earlier
 * visit.
 */
export function Unsent({ account }: { account: string }) {
  const unsent = useSyncExternalStore(onUnsent, unsentLists);
  const { pathname } = useLocation();
  const [kept, setKept] = useState<readonly string[]>([]);
  useAskBeforeLeaving(unsent);
  useEffect(() => endOthers(account), [account]);
  useEffect(() => setKept(unsent > 0 ? [] : plansWaiting(account)), [account, pathname, unsent]);
  // The plan's own page says it at its foot.
  const elsewhere = kept.filter((plan) => !pathname.includes(plan.split("~").at(-1)!));
  if (/\/plan$|\/whatif\//.test(pathname) && elsewhere.length === 0) return null;
  if (unsent === 0 && elsewhere.length === 0) return null;
  return (
    <p role="status" className="undecided border-b rule bg-base-200 px-5 py-0.5 text-sm">
      {unsent > 0 ? (
        `${countWords(unsent, "change", "changes")} to a plan could not be sent yet; that is tried again by itself while this page is open.`
      ) : (
        <>
          Changes that you made to a plan wait in this browser to be sent.{" "}
          {elsewhere.map((plan) => (
            <Link key={plan} className="underline" to={addressOf(plan)}>
              Open the plan to send them
            </Link>
          ))}
        </>
      )}
    </p>
  );
}
