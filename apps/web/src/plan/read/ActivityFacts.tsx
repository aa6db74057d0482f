import type { OwnPlanActivity } from "@chronometra/contract";
import { dateWords, driftWords, marginWords } from "../../shared/words/words.ts";

const STATE_WORDS: Readonly<Record<OwnPlanActivity["state"], string>> = {
  notStarted: "not started",
  inProgress: "under way",
  complete: "done",
  parked: "parked",
};

const between = (start: string | null, finish: string | null): string =>
  start === null || finish === null
    ? "–"
    : start === finish
      ? dateWords(start)
      : `${dateWords(start)} to ${dateWords(finish)}`;

/** When an activity is, now and approved, how it stands, and who does it. */
export function ActivityFacts({ activity }: { activity: OwnPlanActivity }) {
  const { start, finish, baselineStart, baselineFinish, drift, state, percent, deadline, margin, people } = activity;
  const lines: readonly (readonly [string, string])[] = [
    ["Now", between(start, finish)],
    ["Approved", between(baselineStart, baselineFinish)],
    ["Drift", driftWords(drift)],
    ["State", percent === null ? STATE_WORDS[state] : `${STATE_WORDS[state]}, ${Math.round(percent)}% done`],
    ...(deadline === null
      ? []
      : [["Deadline", `${dateWords(deadline)}${margin === null ? "" : `, ${marginWords(margin)}`}`] as const]),
    ...(activity.blockedBy === null ? [] : [["Blocked by", activity.blockedBy] as const]),
    ["Who", people.length === 0 ? "–" : people.join(", ")],
  ];
  return (
    <dl className="grid grid-cols-[6rem_1fr] gap-y-0.5 pb-3">
      {lines.map(([term, words]) => (
        <div key={term} className="contents">
          <dt className="muted">{term}</dt>
          <dd className="break-words">{words}</dd>
        </div>
      ))}
    </dl>
  );
}
