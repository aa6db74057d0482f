import type { ReportsEffect, WindowsHeld } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { dateWords } from "../../shared/words/words.ts";

type Window = ReportsEffect[number]["windows"][number];

const loadWords = ({ leftMinutes, roomMinutes }: Window["load"][number]): string =>
  `${formatHours(leftMinutes)} remaining in ${formatHours(roomMinutes)} of working time`;

/** What someone has to do on an activity beside the time until it ends. */
function Load({ load }: { load: Window["load"] }) {
  return load.map((one) => (
    <span key={one.person} className="block pl-6">
      {one.person}: {loadWords(one)},{" "}
      {one.leftMinutes > one.roomMinutes ? (
        <span className="adverse">{formatHours(one.leftMinutes - one.roomMinutes)} more than fits</span>
      ) : (
        <span className="muted">fits</span>
      )}
    </span>
  ));
}

interface Props {
  readonly of: ReportsEffect[number];
  readonly hold: WindowsHeld;
  readonly onHold: (activity: string, on: boolean) => void;
}

/** The windows that would end later, each to be held or not, and those in which someone has more to do than fits. */
export function Windows({ of, hold, onHold }: Props) {
  if (of.windows.length === 0) return null;
  const isHeld = (id: string): boolean =>
    hold.some(({ project, activity }) => project === of.project && activity === id);
  return (
    <section className="mt-2">
      <h3 className="text-sm">Windows</h3>
      <ul className="text-sm">
        {of.windows.map(({ activity, name, was, wouldEnd, ends, outcome, why, load }) => (
          <li key={activity} className="border-b rule py-0.5">
            {outcome === "stays" && (
              <>
                “{name}” ends on {dateWords(ends)} as before
              </>
            )}
            {outcome === "moves" && why !== null && (
              <>
                “{name}” would end on {dateWords(wouldEnd)} instead of {dateWords(was)}; it cannot be held: {why}
              </>
            )}
            {outcome !== "stays" && (why === null || outcome === "lost") && (
              <label className="flex items-start gap-1.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs mt-0.5"
                  checked={isHeld(activity)}
                  onChange={(event) => onHold(activity, event.target.checked)}
                  aria-label={`Hold the window of ${name}`}
                />
                <span>
                  {outcome === "held" ? (
                    <>
                      “{name}” still ends on {dateWords(ends)}
                    </>
                  ) : (
                    <>
                      “{name}” would end on {dateWords(wouldEnd)} instead of {dateWords(was)}
                    </>
                  )}
                  {outcome === "lost" ? (
                    <span className="adverse"> and cannot be held: {why}</span>
                  ) : (
                    outcome === "moves" && <span className="muted">; select it to hold its window</span>
                  )}
                </span>
              </label>
            )}
            <Load load={load} />
          </li>
        ))}
      </ul>
    </section>
  );
}
