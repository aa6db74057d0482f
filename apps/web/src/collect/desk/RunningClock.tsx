import type { Desk } from "@chronometra/contract";
import { formatHours, parseDuration } from "@chronometra/core";
import { Square } from "lucide-react";
import { useEffect, useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { useDeskCall } from "../useDesk.ts";

const MINUTE = 60_000;
const DAY_MINUTES = 1440;

/** Whole minutes since an instant, counted on while it is looked at. */
function useMinutesSince(at: string): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const ticking = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(ticking);
  }, []);
  return Math.max(0, Math.round((now - Date.parse(at)) / MINUTE));
}

/**
 * The clock that runs: on what, how long, and what stops it. It runs on the server, so a closed browser does not
 * matter.
 */
export function RunningClock({ clock }: { clock: NonNullable<Desk["clock"]> }) {
  const minutes = useMinutesSince(clock.startedAt);
  const [said, setSaid] = useState<number | null>(null);
  const stop = useDeskCall(({ minutes: measured }: { minutes: number }) =>
    call("POST /api/desk/clock/stop", { body: { minutes: measured, note: "" } }),
  );
  const booked = said ?? Math.min(minutes, DAY_MINUTES);
  const since = new Date(clock.startedAt);
  const started = `${String(since.getHours()).padStart(2, "0")}:${String(since.getMinutes()).padStart(2, "0")}`;
  const finish = (): void =>
    stop.mutate(
      { minutes: booked },
      {
        onSuccess: () =>
          toast(
            booked === 0
              ? "Nothing was measured yet, so nothing is booked."
              : `${formatHours(booked)} sent: ${clock.name}`,
          ),
      },
    );
  return (
    <div
      className="sticky top-0 z-10 mb-2 flex flex-wrap items-center gap-x-4 gap-y-1 border-l-4 border-accent bg-base-200 px-3 py-1.5"
      role="timer"
      aria-label="Your clock"
    >
      <span className="figure text-lg tabular-nums">
        {Math.floor(minutes / 60)}:{String(minutes % 60).padStart(2, "0")}
      </span>
      <span className="min-w-0">
        <span className="font-semibold">{clock.name}</span>{" "}
        <span className="muted text-sm">
          since {started}
          {minutes > DAY_MINUTES && ", longer than a day: say what it should be"}
        </span>
      </span>
      <span className="ml-auto flex items-center gap-2">
        <CommitField
          label="What the clock should have measured"
          value={formatHours(booked)}
          width="w-20"
          numeric
          onCommit={(text) => {
            const read = parseDuration(text, 480, "hours");
            if (read === null || read > DAY_MINUTES) return "Write hours of one day, as 1.5h.";
            setSaid(read);
            return null;
          }}
        />
        <button type="button" className="btn btn-primary btn-sm" disabled={stop.isPending} onClick={finish}>
          <Square size={13} aria-hidden="true" /> Stop and book
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          disabled={stop.isPending}
          onClick={() => stop.mutate({ minutes: 0 })}
        >
          Discard
        </button>
      </span>
    </div>
  );
}
