import { X } from "lucide-react";
import { useState } from "react";
import { Link, useLocation } from "react-router";
import { keepPreference, preference } from "../shared/session/preferences.ts";

const SEEN = "first-steps";
/** Where people arrive. */
const ARRIVALS = ["/", "/desk", "/settings"];

/** Until it is closed, tells whoever arrives where to begin. */
export function FirstVisit() {
  const { pathname } = useLocation();
  const [seen, setSeen] = useState(() => preference(SEEN) === "seen");
  if (seen || !ARRIVALS.includes(pathname)) return null;
  const close = (): void => {
    setSeen(true);
    keepPreference(SEEN, "seen");
  };
  return (
    <p className="flex items-center gap-2 border-b rule px-5 py-0.5 text-sm print:hidden">
      <span>
        New here?{" "}
        <Link className="underline" to="/first-steps" onClick={close}>
          First steps
        </Link>{" "}
        lists what is yours to do, in order.
      </span>
      <button type="button" className="ml-auto cursor-pointer p-1" aria-label="Close the hint" onClick={close}>
        <X size={14} aria-hidden="true" />
      </button>
    </p>
  );
}
