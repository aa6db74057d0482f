import type { MilestoneLine, ReportBlock } from "@chronometra/contract";
import { dateWords, DEADLINE_TONES, marginWords, movedWords, roundedDays, standingWords } from "@chronometra/core";
import type { Gathered } from "../../gather.ts";
import { dateCell, driftCell, driftTone, pageOf, table, textCell } from "../cells.ts";

const MOST_TREND = 12;

/**
 * How a forecast moved since the report before. Where another date is approved by now, drifts cannot be compared: it is
 * said what was forecast.
 */
function sinceBefore(
  { baseline, now, drift }: { readonly baseline: string | null; readonly now: string; readonly drift: number | null },
  was: MilestoneLine | undefined,
): string {
  if (was === undefined) return "";
  if (was.forecast === now) return "as before";
  if (drift === null || was.drift === null || was.baseline !== baseline) return `was ${dateWords(was.forecast)}`;
  return roundedDays(drift - was.drift) === 0 ? "as before" : movedWords(drift - was.drift);
}

export function milestones(gathered: Gathered): ReportBlock[] {
  const { trend, before } = gathered;
  const was = new Map(before?.summary.milestones.map((each) => [each.id, each]));
  const rows = trend.milestones.flatMap(({ id, name, baseline, deadline, now, reached, drift }) =>
    now === null
      ? []
      : [
          {
            cells: [
              textCell(name),
              dateCell(baseline),
              dateCell(now),
              driftCell(drift),
              textCell(reached ? "reached" : sinceBefore({ baseline, now, drift }, was.get(id))),
              dateCell(deadline),
            ],
            ...(reached ? {} : driftTone(drift)),
            link: pageOf(gathered, "dates"),
          },
        ],
  );
  const open = trend.milestones.filter(({ now, reached }) => now !== null && !reached).slice(0, MOST_TREND);
  const dates = [...trend.periods.map(({ dataDate }) => dataDate), trend.dataDate ?? gathered.period.dataDate];
  return [
    table(
      ["Milestone", "#Approved", "#Now", "#Drift", "Since the last report", "#Promised for"],
      rows,
      "The plan has no milestones.",
    ),
    ...(trend.periods.length === 0 || open.length === 0
      ? []
      : [
          {
            is: "trend" as const,
            dates,
            lines: open.map(({ name, forecasts, now }) => ({
              name,
              forecasts: [...forecasts.map((each) => each?.date ?? null), now],
            })),
          },
        ]),
  ];
}

const CHAIN_NAMES = 6;
const chainWords = (names: readonly string[]): string =>
  names.length === 0 ? "nothing unfinished leads to it" : names.slice(-CHAIN_NAMES).join(" → ");

export function deadlines(
  gathered: { readonly of: Pick<Gathered["of"], "summary" | "chains"> } & Pick<Gathered, "before" | "project">,
): ReportBlock[] {
  const { summary, chains } = gathered.of;
  const link = `/deadlines?project=${gathered.project.id}`;
  const was = new Map(gathered.before?.summary.deadlines.map((each) => [each.id, each]));
  const rows = summary.deadlines.map(({ id, name, deadline, finish, marginDays, state }) => {
    const before = was.get(id);
    const tone = DEADLINE_TONES[state];
    return {
      cells: [
        textCell(name),
        dateCell(deadline),
        dateCell(finish),
        textCell(standingWords(state, marginDays)),
        textCell(before?.marginDays == null ? "" : `was ${marginWords(before.marginDays)}`),
      ],
      ...(tone === "plain" ? {} : { tone }),
      link,
    };
  });
  const named = new Map(summary.deadlines.map(({ id, name }) => [id, name]));
  const leading = Object.entries(chains).map(([id, names]) => ({
    text: `${named.get(id)}: ${chainWords(names)}`,
    link,
  }));
  return [
    table(["Promise", "#Promised for", "#Forecast", "How it stands", "Before"], rows, "Nothing has a deadline."),
    ...(leading.length === 0 ? [] : [{ is: "lines" as const, items: leading, none: "" }]),
  ];
}
