import { useEffect } from "react";
import { useBlocker } from "react-router";
import { Dialog } from "./Dialog.tsx";

/**
 * Stands on a page while something on it is changed and not saved: whoever goes elsewhere, also to another tab of the
 * same page, is asked first, and so is whoever closes the window.
 */
export function UnsavedGuard({ what }: { what: string }) {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      currentLocation.pathname !== nextLocation.pathname || currentLocation.search !== nextLocation.search,
  );
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent): void => event.preventDefault();
    addEventListener("beforeunload", ask);
    return () => removeEventListener("beforeunload", ask);
  }, []);
  if (blocker.state !== "blocked") return null;
  return (
    <Dialog title="Not saved yet" onClose={() => blocker.reset()}>
      <p>{what} was changed here, and that is not saved.</p>
      <div className="mt-3 flex gap-2">
        <button type="button" className="btn btn-primary btn-sm" onClick={() => blocker.reset()}>
          Stay and save it
        </button>
        <button type="button" className="btn btn-sm" onClick={() => blocker.proceed()}>
          Leave without saving
        </button>
      </div>
    </Dialog>
  );
}
