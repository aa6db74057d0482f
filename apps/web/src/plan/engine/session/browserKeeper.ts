import { NOTHING_KEPT, type Keeper, type Kept } from "./outbox.ts";

const PREFIX = "chronometra.outbox.";

/** Of whom and what something is kept: an account, and a plan or what-if. */
const keyOf = (account: string, plan: string, page: string): string => `${PREFIX}${account}.${plan}.${page}`;

function readKept(key: string): Kept {
  try {
    return { ...NOTHING_KEPT, ...(JSON.parse(localStorage.getItem(key) ?? "{}") as Partial<Kept>) };
  } catch {
    return NOTHING_KEPT;
  }
}

const isEmpty = ({ waiting, refused, undo }: Kept): boolean =>
  [waiting, refused, undo.done, undo.undone].every(({ length }) => length === 0);

/** A page that is loaded anew lets go of its work a moment after the next one asks for it. */
const LETTING_GO_MILLISECONDS = 3000;

/**
 * Runs work while no other page of this browser is at the same; not at all where one is.
 * @param wait milliseconds for which it is waited for, where the other page is on its way out
 */
async function ifAlone(name: string, wait: number, work: () => void): Promise<void> {
  if (navigator.locks === undefined) return work();
  const asked = wait === 0 ? { ifAvailable: true } : { signal: AbortSignal.timeout(wait) };
  await navigator.locks
    .request(name, asked, (lock) => {
      if (lock !== null) work();
    })
    .catch((error: unknown) => {
      // It was held all the while: another page works on it, and keeps it.
      if ((error as Error).name !== "TimeoutError" && (error as Error).name !== "AbortError") throw error;
    });
}

/**
 * Keeps a person's work on a plan in the browser, apart for each page that has it open. What a page left that is gone,
 * because it was closed or loaded again, is taken over by the next that opens the plan.
 * @returns the keeper, and what ends the page's hold on it
 */
export async function browserKeeper(account: string, plan: string): Promise<{ keeper: Keeper; release: () => void }> {
  const own = keyOf(account, plan, crypto.randomUUID());
  // What this very window kept before it was loaded again: its page is gone, or goes.
  const before = sessionStorage.getItem(keyOf(account, plan, ""));
  sessionStorage.setItem(keyOf(account, plan, ""), own);
  let release: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  // Held as long as the page lives: by that others know that it does.
  void navigator.locks?.request(own, () => held);
  let kept = NOTHING_KEPT;
  const others = Object.keys(localStorage).filter((key) => key.startsWith(keyOf(account, plan, "")));
  for (const key of others) {
    await ifAlone(key, key === before ? LETTING_GO_MILLISECONDS : 0, () => {
      const left = readKept(key);
      kept = {
        waiting: [...kept.waiting, ...left.waiting],
        refused: [...kept.refused, ...left.refused],
        revisions: [...kept.revisions, ...left.revisions],
        // Of two pages that were left, one is taken up where it was.
        undo: left.undo.done.length + left.undo.undone.length > 0 ? left.undo : kept.undo,
      };
      // Taken away first: both together may be more than the browser has room for.
      localStorage.removeItem(key);
      if (!isEmpty(kept)) localStorage.setItem(own, JSON.stringify(kept));
    });
  }
  const keeper: Keeper = {
    read: () => kept,
    write: (next) => {
      kept = next;
      if (isEmpty(next)) localStorage.removeItem(own);
      else localStorage.setItem(own, JSON.stringify(next));
    },
  };
  return { keeper, release };
}

/**
 * Forgets what others could have taken back: whoever comes next in this browser finds nothing of their plans, but for
 * what waits to be sent.
 */
export function forgetUndoOfOthers(account: string): void {
  for (const key of Object.keys(localStorage)) {
    if (!key.startsWith(PREFIX) || key.startsWith(keyOf(account, "", "").slice(0, -1))) continue;
    const kept = { ...readKept(key), undo: NOTHING_KEPT.undo };
    if (isEmpty(kept)) localStorage.removeItem(key);
    else localStorage.setItem(key, JSON.stringify(kept));
  }
}

/** Plans of an account of which something waits in this browser, left by a page that may be gone. */
export const plansWaiting = (account: string): string[] => [
  ...new Set(
    Object.keys(localStorage).flatMap((key) =>
      key.startsWith(`${PREFIX}${account}.`) && readKept(key).waiting.length > 0
        ? [key.slice(PREFIX.length + account.length + 1, key.lastIndexOf("."))]
        : [],
    ),
  ),
];
