import type { ExternalToast } from "sonner";

/** Whether what shows messages is wanted on the page, and who waits to hear of it. */
let wanted = false;
const listeners = new Set<() => void>();

/** What shows messages comes once it is wanted: with the first message, or when the first page has come to rest. */
export const messagesWanted = {
  now: (): boolean => wanted,
  subscribe(listener: () => void): () => void {
    listeners.add(listener);
    return () => void listeners.delete(listener);
  },
  want(): void {
    wanted = true;
    for (const listener of listeners) listener();
  },
};

let shown: () => void;
const areShown = new Promise<void>((resolve) => (shown = resolve));

/** Called by what shows messages, once it listens. */
export const messagesShown = (): void => shown();

async function tell(kind: "message" | "error", words: string, options: ExternalToast | undefined): Promise<void> {
  messagesWanted.want();
  await areShown;
  const { toast } = await import("sonner");
  toast[kind](words, options);
}

/** Tells something at the foot of the page, for a while. */
export const toast = Object.assign(
  (words: string, options?: ExternalToast): void => void tell("message", words, options),
  { error: (words: string, options?: ExternalToast): void => void tell("error", words, options) },
);
