import { Search } from "lucide-react";
import { lazy, Suspense, useEffect, useState } from "react";

const FindDialog = lazy(async () => ({ default: (await import("./FindDialog.tsx")).FindDialog }));

/** Ctrl and K, or Command and K, from anywhere. */
const isFindKey = (event: KeyboardEvent): boolean =>
  (event.ctrlKey || event.metaKey) && !event.altKey && !event.shiftKey && event.key.toLowerCase() === "k";

/** The field in the head that finds anything, and the key for it. */
export function Find() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (!isFindKey(event)) return;
      event.preventDefault();
      event.stopPropagation();
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
        onClick={() => setOpen(true)}
      >
        <Search size={14} aria-hidden="true" />
        <span className="hidden 2xl:inline">Find anything</span>
        <kbd className="hidden text-xs sm:inline">Ctrl K</kbd>
      </button>
      {open && (
        <Suspense>
          <FindDialog onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
