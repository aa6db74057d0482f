import { X } from "lucide-react";
import { useEffect, useRef, type ReactNode } from "react";
import { focusPage, lostFocus } from "./focus.ts";

interface Props {
  readonly title: string;
  readonly onClose: () => void;
  readonly children: ReactNode;
  /** Keeps to the head of the page, so that it stands still while it grows. */
  readonly atHead?: boolean;
  /** Takes the width there is, for what is read in it. */
  readonly wide?: boolean;
}

/** A question that stands before the page; Escape leaves it. */
export function Dialog({ title, onClose, children, atHead = false, wide = false }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const before = document.activeElement as HTMLElement | null;
    dialog.current?.showModal();
    // Whatever closes it, one works on where one was; where that is gone, on the page.
    return () => {
      if (!lostFocus()) return;
      if (before?.isConnected === true && before !== document.body) before.focus({ preventScroll: true });
      else focusPage();
    };
  }, []);
  return (
    <dialog
      ref={dialog}
      aria-label={title}
      onClose={onClose}
      className={`${atHead ? "mx-auto mt-14 w-[min(46rem,94vw)]" : `m-auto ${wide ? "w-[min(64rem,94vw)]" : "w-[min(34rem,94vw)]"}`} border rule bg-base-100 p-0 text-base-content backdrop:bg-black/40`}
    >
      <div
        className="flex items-center justify-between px-5 py-2.5"
        style={{ background: "var(--bar-ground)", color: "var(--bar-ink)" }}
      >
        <h2 className="text-base">{title}</h2>
        <button type="button" className="p-1 cursor-pointer" aria-label="Close" onClick={() => dialog.current?.close()}>
          <X size={16} aria-hidden="true" />
        </button>
      </div>
      <div className="px-5 py-4">{children}</div>
    </dialog>
  );
}
