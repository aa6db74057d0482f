import { Search } from "lucide-react";
import { lazy, Suspense, useCallback, useEffect, useRef, useState } from "react";
import { untilFetched } from "../../shared/messages/untilFetched.ts";

const fetched = () => untilFetched(() => import("./FindDialog.tsx"));
const FindDialog = lazy(async () => ({ default: (await fetched()).FindDialog }));

/** How long a page rests before the dialog is fetched ahead, so that it is there when the connection is not. */
const REST_MILLISECONDS = 5_000;

/** Ctrl and K, or Command and K, from anywhere. */
const isFindKey = (event: KeyboardEvent): boolean =>
  (event.ctrlKey || event.metaKey) && !event.altKey && !event.shiftKey && event.key.toLowerCase() === "k";

/** Stands in for the dialog until it is there: what is typed meanwhile is kept for it, and Escape gives up. */
function OnItsWay({ onType, onClose }: { onType: (change: (text: string) => string) => void; onClose: () => void }) {
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      const { key } = event;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (key === "Escape") onClose();
      else if (key === "Backspace") onType((text) => text.slice(0, -1));
      else if (key.length === 1) onType((text) => text + key);
      // No other key reaches the page beneath either: Enter there would begin to write.
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, [onType, onClose]);
  return (
    <p role="status" className="fixed inset-x-0 top-14 z-40 mx-auto w-fit border rule bg-base-100 px-4 py-2 text-sm">
      Loading …
    </p>
  );
}

/** The field in the head that finds anything, and the key for it. */
export function Find() {
  const [open, setOpen] = useState(false);
  const typed = useRef("");
  const close = useCallback(() => setOpen(false), []);
  const type = useCallback((change: (text: string) => string) => void (typed.current = change(typed.current)), []);
  useEffect(() => {
    const timer = setTimeout(() => void fetched(), REST_MILLISECONDS);
    return () => clearTimeout(timer);
  }, []);
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (!isFindKey(event)) return;
      event.preventDefault();
      event.stopPropagation();
      typed.current = "";
      setOpen(true);
    };
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, []);
  return (
    <>
      <button
        type="button"
        aria-label="Find anything"
        aria-keyshortcuts="Control+K"
        className="flex cursor-pointer items-center gap-2 border px-2 py-1 text-sm"
        style={{ borderColor: "var(--bar-muted)", color: "var(--bar-muted)" }}
        onClick={() => {
          typed.current = "";
          setOpen(true);
        }}
      >
        <Search size={14} aria-hidden="true" />
        <span className="hidden 2xl:inline">Find anything</span>
        <kbd className="hidden text-xs sm:inline">Ctrl K</kbd>
      </button>
      {open && (
        <Suspense fallback={<OnItsWay onType={type} onClose={close} />}>
          <FindDialog begun={typed} onClose={close} />
        </Suspense>
      )}
    </>
  );
}
