import { lazy, Suspense, useEffect, useSyncExternalStore } from "react";
import { messagesWanted } from "./toast.ts";

/**
 * How long it waits where what shows messages could not be fetched: without a connection a page goes on, and tells
 * later.
 */
const AGAIN_MILLISECONDS = 2_000;

const fetchNow = () => import("./ShownMessages.tsx");

async function fetched(): ReturnType<typeof fetchNow> {
  for (;;) {
    try {
      return await fetchNow();
    } catch {
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MILLISECONDS));
    }
  }
}

const Shown = lazy(fetched);
const Room = lazy(async () => ({ default: (await fetched()).MessageRoom }));

/**
 * How long a page rests before what shows messages is fetched ahead, so that it is there when the connection is not.
 */
const REST_MILLISECONDS = 3_000;

const useWanted = (): boolean => useSyncExternalStore(messagesWanted.subscribe, messagesWanted.now);

/** Where messages are told. */
export function Messages() {
  useEffect(() => {
    const timer = setTimeout(messagesWanted.want, REST_MILLISECONDS);
    return () => clearTimeout(timer);
  }, []);
  return useWanted() ? (
    <Suspense fallback={null}>
      <Shown />
    </Suspense>
  ) : null;
}

/** Below a page, while a message is told: as much room as it takes, so that it covers nothing that can be pressed. */
export const MessageRoom = () =>
  useWanted() ? (
    <Suspense fallback={null}>
      <Room />
    </Suspense>
  ) : null;
