import { dateWords } from "../words/dateWords.ts";
import { countWords, moneyWords, percentWords, ratioWords } from "../words/numberWords.ts";
import { driftWords, marginWords, movedWords, roundedDays } from "../words/standingWords.ts";
import type { Aspect, ReportFacts } from "./facts.ts";

const NAMED = 3;

/** The first of some names, and how many more there are. */
const namesOf = (names: readonly string[]): string =>
  names.length <= NAMED ? names.join(", ") : `${names.slice(0, NAMED).join(", ")} and ${names.length - NAMED} more`;

const amountIn =
  ({ currency, minorDigits }: ReportFacts) =>
  (minor: number): string =>
    `${moneyWords(minor, minorDigits)} ${currency}`;

/** How the finish moved since the last report, as the end of a sentence. */
function movedSince({ finish, finishBefore, moved, since }: ReportFacts): string {
  if (since === null || finishBefore === null) return "";
  if (finishBefore === finish) return `; it has not moved since period ${since}`;
  return moved === null || roundedDays(moved) === 0
    ? `; period ${since} said ${dateWords(finishBefore)}`
    : `; it moved ${movedWords(moved)} since period ${since}`;
}

function scheduleText(facts: ReportFacts): string[] {
  const { finish, approvedFinish, drift, figures, deadlines, milestones } = facts;
  if (finish === null) return ["Nothing is scheduled yet."];
  const against =
    approvedFinish === null || drift === null
      ? "; no baseline says when it was to be"
      : roundedDays(drift) === 0
        ? ", as approved"
        : `, ${driftWords(drift)} against the approved ${dateWords(approvedFinish)}`;
  const lines = [`The finish is forecast for ${dateWords(finish)}${against}${movedSince(facts)}.`];
  if (figures?.spi != null)
    lines.push(`Of what was planned to date ${percentWords(figures.spi)} is earned (SPI ${ratioWords(figures.spi)}).`);
  const [late] = milestones
    .filter((each) => !each.reached && each.dropped !== true && roundedDays(each.drift ?? 0) > 0)
    .toSorted((a, b) => b.drift! - a.drift!);
  if (late !== undefined)
    lines.push(
      `Furthest behind is the milestone "${late.name}", ${driftWords(late.drift)}, now ${dateWords(late.forecast)}.`,
    );
  for (const { name, deadline, marginDays } of deadlines.filter(
    ({ state }) => state === "breached" || state === "willBreach",
  ))
    lines.push(
      `The promise of "${name}" for ${dateWords(deadline)} is not kept as things stand${marginDays === null ? "" : `: ${marginWords(marginDays)}`}.`,
    );
  return lines;
}

function costText(facts: ReportFacts): string[] {
  const { figures } = facts;
  const amount = amountIn(facts);
  if (figures === null) return ["There is no approved budget to measure the cost against."];
  if (figures.bac === 0 && figures.ac === 0) return ["No cost is planned, and none was spent."];
  const lines = [
    figures.cpi === null
      ? `Spent ${amount(figures.ac)}, earned ${amount(figures.ev)}.`
      : `Spent ${amount(figures.ac)}, earned ${amount(figures.ev)} (CPI ${ratioWords(figures.cpi)}).`,
  ];
  if (figures.eac !== null && figures.vac !== null) {
    const side = moneyWords(figures.vac, facts.minorDigits) === "0" ? null : figures.vac < 0 ? "over" : "under";
    const variance = amount(Math.abs(figures.vac));
    lines.push(
      side === null
        ? `The estimate at completion is ${amount(figures.eac)}, the budget.`
        : `The estimate at completion is ${amount(figures.eac)}, ${variance} ${side} the budget of ${amount(figures.bac)}.`,
    );
  }
  return lines;
}

function scopeText({ isApproved, done, activities, unbaselined, dropped, requestsWaiting }: ReportFacts): string[] {
  const lines = [
    activities === 0
      ? "There is no scheduled work."
      : `${done} of ${countWords(activities, "activity", "activities")} ${done === 1 ? "is" : "are"} finished.`,
  ];
  if (!isApproved) lines.push("No plan is approved yet.");
  if (unbaselined > 0) lines.push(`${countWords(unbaselined, "activity is", "activities are")} in no baseline.`);
  if (dropped > 0) lines.push(`${countWords(dropped, "activity was", "activities were")} ended short of the scope.`);
  if (requestsWaiting > 0)
    lines.push(`${countWords(requestsWaiting, "change request waits", "change requests wait")} for a decision.`);
  return lines;
}

function risksText(facts: ReportFacts): string[] {
  const { count, expectedMinor, contingencyMinor, blocked } = facts.risks;
  const amount = amountIn(facts);
  const left =
    contingencyMinor === 0 ? "no contingency is set aside" : `${amount(contingencyMinor)} of contingency remain`;
  const cost =
    expectedMinor === 0 ? "no cost is expected of them" : `expected to cost ${amount(expectedMinor)}; ${left}`;
  return [
    count === 0 ? "No risk is recorded." : `${countWords(count, "risk is", "risks are")} recorded, ${cost}.`,
    ...(blocked > 0 ? [`${countWords(blocked, "activity is", "activities are")} blocked.`] : []),
  ];
}

function peopleText({ people: { missing, overloaded, unfilled } }: ReportFacts): string[] {
  const named = (names: readonly string[], one: string, many: string): string[] =>
    names.length === 0 ? [] : [`${countWords(names.length, one, many)}: ${namesOf(names)}.`];
  return [
    ...(missing.length === 0
      ? ["Everybody has reported."]
      : named(missing, "person has not reported", "people have not reported")),
    ...named(
      overloaded,
      "person has more to do than time in the next four weeks",
      "people have more to do than time in the next four weeks",
    ),
    ...named(
      unfilled,
      "role has work in the next four weeks and nobody to do it",
      "roles have work in the next four weeks and nobody to do it",
    ),
  ];
}

function overallText(facts: ReportFacts): string[] {
  const { broken, milestones } = facts;
  const next = milestones
    .filter((each) => !each.reached && each.dropped !== true)
    .toSorted((a, b) => (a.forecast < b.forecast ? -1 : 1))[0];
  const first = broken.map(({ words }) => words).join("; ");
  return [
    broken.length === 0
      ? "No limit of the portfolio is broken."
      : `${countWords(broken.length, "limit of the portfolio is", "limits of the portfolio are")} broken: ${first}.`,
    ...(next === undefined ? [] : [`Next comes the milestone "${next.name}" on ${dateWords(next.forecast)}.`]),
  ];
}

/** With what the manager's text on each side begins: sentences that are true, of figures and names. */
export const beginTexts = (facts: ReportFacts): Readonly<Record<Aspect, string>> => ({
  schedule: scheduleText(facts).join(" "),
  cost: costText(facts).join(" "),
  scope: scopeText(facts).join(" "),
  risks: risksText(facts).join(" "),
  people: peopleText(facts).join(" "),
  overall: overallText(facts).join(" "),
});
