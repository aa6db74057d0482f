import { lazy, Suspense, useEffect, useSyncExternalStore } from "react";
import { untilFetched } from "./untilFetched.ts";
import { messagesWanted } from "./toast.ts";

const fetched = () => untilFetched(() => import("./ShownMessages.tsx"));

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
