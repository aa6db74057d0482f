import { useEffect } from "react";
import type { PlanSession } from "./engine/session/planSession.ts";

/** Keys that hold for the whole page. */
export function usePageKeys(session: PlanSession, onFind: () => void, onAbout: () => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const key = event.key.toLowerCase();
      if (event.altKey && key === "enter") onAbout();
      else if (!(event.ctrlKey || event.metaKey)) return;
      else if (key === "f") onFind();
      else if ((event.target as HTMLElement).matches("input, textarea, select")) return;
      else if (key === "z" && !event.shiftKey) void session.undo();
      else if (key === "y" || key === "z") void session.redo();
      else return;
      event.preventDefault();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  });
}
