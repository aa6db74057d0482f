import { toast } from "../messages/toast.ts";
import { call } from "./api.ts";

const WAIT_MILLISECONDS = 400;

/** How whoever is signed in likes the pages; told with the session. */
let kept: Record<string, string> = {};
/** What is on its way to the server until it has answered, and how it is sent there and then. */
const waiting = new Map<string, { timer: ReturnType<typeof setTimeout>; send: (leaving: boolean) => void }>();

/** Whose they are. */
let owner: string | null = null;

const LEFT = "chronometra.preferences";

/** What was chosen in the moment before this window's page was left, and may not have reached the server yet. */
function leftBy(account: string | null): Record<string, string> {
  const left = sessionStorage.getItem(LEFT);
  sessionStorage.removeItem(LEFT);
  const [of, chosen] = JSON.parse(left ?? "[null, {}]") as [string | null, Record<string, string>];
  return of === account && account !== null ? chosen : {};
}

/** Takes in what was kept for whoever is signed in. */
export function takePreferences(preferences: Record<string, string>, account: string | null): void {
  owner = account;
  kept = { ...preferences, ...leftBy(account) };
}

/** What was kept under a name, `null` where nothing was. */
export const preference = (name: string): string | null => kept[name] ?? null;

/** Keeps a text under a name, for this person on any machine; what changes quickly is sent once it rests. */
export function keepPreference(name: string, value: string): void {
  kept = { ...kept, [name]: value };
  const former = waiting.get(name);
  if (former !== undefined) clearTimeout(former.timer);
  const send = (leaving: boolean): void =>
    void call("PUT /api/preferences/:name", { params: { name }, body: { value }, outlivesPage: leaving })
      .catch(() => toast.error("How you like this page could not be kept; it holds until you leave."))
      .finally(() => {
        if (waiting.get(name) === own) waiting.delete(name);
      });
  const own = { timer: setTimeout(send, WAIT_MILLISECONDS, false), send };
  waiting.set(name, own);
}

// Whoever closes the page within that moment has chosen all the same.
if (typeof window !== "undefined")
  window.addEventListener("pagehide", () => {
    if (waiting.size === 0) return;
    const chosen = Object.fromEntries([...waiting.keys()].map((name) => [name, kept[name]!]));
    sessionStorage.setItem(LEFT, JSON.stringify([owner, chosen]));
    [...waiting.values()].forEach(({ timer, send }) => (clearTimeout(timer), send(true)));
  });
