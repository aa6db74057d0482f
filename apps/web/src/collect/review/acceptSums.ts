import type { QueuedReport, ReportsEffect } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { countWords, money } from "../../shared/words/words.ts";

const BROKEN = new Set(["willBreach", "breached", "metLate"]);

/**
 * What accepting reports comes to in all, in a few words each: hours, cost by currency, finishes and deadlines that
 * move.
 */
export function acceptSums(reports: readonly Pick<QueuedReport, "minutes">[], effects: ReportsEffect): string[] {
  const minutes = reports.reduce((sum, report) => sum + (report.minutes ?? 0), 0);
  const costs = new Map<string, { digits: number; actual: number; later: number; estimate: number }>();
  for (const { effect } of effects) {
    if (effect.cost === null) continue;
    const sum = costs.get(effect.currency) ?? { digits: effect.minorDigits, actual: 0, later: 0, estimate: 0 };
    sum.actual += effect.cost.actualAfter - effect.cost.actualBefore;
    sum.later += effect.cost.laterAfter - effect.cost.laterBefore;
    sum.estimate += effect.cost.estimateAfter - effect.cost.estimateBefore;
    costs.set(effect.currency, sum);
  }
  const moved = effects.map(({ effect: { finish } }) => finish?.days ?? 0);
  const [later, earlier] = [moved.filter((days) => days > 0).length, moved.filter((days) => days < 0).length];
  const broken = effects
    .flatMap(({ effect }) => effect.deadlines)
    .filter(
      ({ before, after }) =>
        after !== null && BROKEN.has(after.state) && !(before !== null && BROKEN.has(before.state)),
    ).length;
  const costWords = [...costs].flatMap(([currency, { digits, actual, later, estimate }]) => [
    actual === 0 ? "" : `${money(Math.abs(actual), digits)} ${currency} ${actual > 0 ? "more" : "less"} spent`,
    later === 0
      ? ""
      : `${money(Math.abs(later), digits)} ${currency} ${later > 0 ? "more" : "less"} once the data date passes it`,
    Math.abs(estimate) < 10 ** digits
      ? ""
      : `${money(Math.abs(estimate), digits)} ${currency} ${estimate > 0 ? "more" : "less"} at completion`,
  ]);
  return [
    minutes === 0 ? "" : minutes > 0 ? formatHours(minutes) : `${formatHours(-minutes)} taken back`,
    ...costWords,
    later === 0 ? "" : `${countWords(later, "project finishes", "projects finish")} later`,
    earlier === 0 ? "" : `${countWords(earlier, "project finishes", "projects finish")} earlier`,
    broken === 0 ? "" : `${countWords(broken, "deadline breaks", "deadlines break")}`,
  ].filter((words) => words !== "");
}
