import { wordFor, type OwnPlanActivity, type OwnWords } from "@chronometra/contract";
import { dateWords, driftWords, marginWords } from "../../shared/words/words.ts";

const between = (start: string | null, finish: string | null): string =>
  start === null || finish === null
    ? "–"
    : start === finish
      ? dateWords(start)
      : `${dateWords(start)} to ${dateWords(finish)}`;

/** When an activity is, now and approved, how it stands in the words of its project, and who does it. */
export function ActivityFacts({ activity, words }: { activity: OwnPlanActivity; words: OwnWords }) {
  const { start, finish, baselineStart, baselineFinish, drift, state, percent, deadline, margin, people } = activity;
  const word = wordFor(words, state);
  const lines: readonly (readonly [string, string])[] = [
    ["Now", between(start, finish)],
    ["Approved", between(baselineStart, baselineFinish)],
    ["Drift", driftWords(drift)],
    ["State", percent === null || state === "complete" ? word : `${word}, ${Math.round(percent)}% done`],
    ...(deadline === null
      ? []
      : [["Deadline", `${dateWords(deadline)}${margin === null ? "" : `, ${marginWords(margin)}`}`] as const]),
    ...(activity.blockedBy === null ? [] : [["Blocked by", activity.blockedBy] as const]),
    ["Who", people.length === 0 ? "–" : people.join(", ")],
  ];
  return (
    <dl className="grid grid-cols-[6rem_1fr] gap-y-0.5 pb-3">
      {lines.map(([term, said]) => (
        <div key={term} className="contents">
          <dt className="muted">{term}</dt>
          <dd className="break-words">{said}</dd>
        </div>
      ))}
    </dl>
  );
}
