import { LARGEST_FILE } from "@chronometra/contract";
import { useRef, useState } from "react";

/** Files on their way, one after the other; what cannot be sent is told by name. */
export function useSending<To>(sendOne: (to: To, file: File, signal: AbortSignal) => Promise<void>) {
  const [sending, setSending] = useState<string | null>(null);
  const [faults, setFaults] = useState<readonly string[]>([]);
  const stop = useRef(new AbortController());
  const send = async (to: To, files: readonly File[]): Promise<void> => {
    stop.current = new AbortController();
    const { signal } = stop.current;
    const told: string[] = [];
    setFaults([]);
    for (const file of files) {
      if (signal.aborted) break;
      setSending(file.name);
      try {
        if (file.size > LARGEST_FILE)
          throw new Error(`“${file.name}” has more than ${LARGEST_FILE / 1024 / 1024} MB; give a link to it instead.`);
        await sendOne(to, file, signal);
      } catch (error) {
        if (!signal.aborted) told.push(error instanceof Error ? error.message : String(error));
      }
    }
    setSending(null);
    setFaults(told);
  };
  return { sending, faults, send, cancel: () => stop.current.abort() };
}
