import { useEffect, useRef } from "react";
import { toast } from "../../shared/messages/toast.ts";
import type { Gone } from "../engine/session/sessionState.ts";
import type { LostText } from "./cells/gridState.ts";

/** That the row someone stood on was taken out by someone else; and what they were typing into it, for keeping. */
export function LostTextBar({ lost, gone, onDone }: { lost: LostText | null; gone: Gone | null; onDone: () => void }) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (lost === null) return;
    field.current?.focus();
    field.current?.setSelectionRange(lost.text.length, lost.text.length);
  }, [lost]);
  if (lost === null)
    return gone === null ? null : (
      <p role="alert" className="undecided border-t rule bg-base-200 px-4 py-0.5">
        “{gone.name}”, where you stood, was removed by {gone.by}. Select another row to go on.
      </p>
    );
  return (
    <div role="alert" className="flex flex-wrap items-center gap-2 border-t rule bg-base-200 px-4 py-1">
      <span className="adverse">
        “{lost.row.name}” was removed by {lost.row.by}. What you were typing was not stored:
      </span>
      <input
        ref={field}
        key={lost.text}
        className="input input-sm h-6 w-72"
        aria-label="What you were typing"
        defaultValue={lost.text}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === "Escape") onDone();
        }}
      />
      <button
        type="button"
        className="btn btn-xs"
        onClick={() => void navigator.clipboard.writeText(field.current!.value).then(() => toast("Copied."))}
      >
        Copy it
      </button>
      <button type="button" className="btn btn-xs" onClick={onDone}>
        Discard it
      </button>
    </div>
  );
}
