import { toast } from "sonner";
import { call } from "./api.ts";

const WAIT_MILLISECONDS = 400;

/** How whoever is signed in likes the pages; told with the session. */
let kept: Record<string, string> = {};
/** What is on its way to the server, and how it is sent there and then. */
const waiting = new Map<string, { timer: ReturnType<typeof setTimeout>; send: (leaving: boolean) => void }>();

/** Takes in what was kept for whoever is signed in. */
export const takePreferences = (preferences: Record<string, string>): void => void (kept = preferences);

/** What was kept under a name, `null` where nothing was. */
export const preference = (name: string): string | null => kept[name] ?? null;

/** Keeps a text under a name, for this person on any machine; what changes quickly is sent once it rests. */
export function keepPreference(name: string, value: string): void {
  kept = { ...kept, [name]: value };
  const former = waiting.get(name);
  if (former !== undefined) clearTimeout(former.timer);
  const send = (leaving: boolean): void => {
    waiting.delete(name);
    void call("PUT /api/preferences/:name", { params: { name }, body: { value }, outlivesPage: leaving }).catch(() =>
      toast.error("How you like this page could not be kept; it holds until you leave."),
    );
  };
  waiting.set(name, { timer: setTimeout(send, WAIT_MILLISECONDS, false), send });
}

// Whoever closes the page within that moment has chosen all the same.
if (typeof window !== "undefined")
  window.addEventListener("pagehide", () =>
    [...waiting.values()].forEach(({ timer, send }) => (clearTimeout(timer), send(true))),
  );
