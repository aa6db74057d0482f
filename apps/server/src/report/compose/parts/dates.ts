import type { DeadlineLine, ReportBlock } from "@chronometra/contract";
import { marginWords, movedWords, roundedDays, standingWords } from "@chronometra/core";
import type { Gathered } from "../../gather.ts";
import { change, dateCell, driftCell, driftTone, pageOf, table, textCell } from "../cells.ts";

const MOST_TREND = 12;

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
              textCell(
                reached
                  ? "reached"
                  : change(drift, was.get(id)?.drift, (by) => (roundedDays(by) === 0 ? "as before" : movedWords(by))),
              ),
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

const DEADLINE_TONES: Readonly<Record<DeadlineLine["state"], "adverse" | "favourable" | "undecided" | null>> = {
  metOnTime: "favourable",
  metLate: "adverse",
  dropped: "undecided",
  breached: "adverse",
  willBreach: "adverse",
  tight: "undecided",
  safe: null,
};

const CHAIN_NAMES = 6;

export function deadlines(
  gathered: { readonly of: Pick<Gathered["of"], "summary" | "chains"> } & Pick<Gathered, "before">,
): ReportBlock[] {
  const { summary, chains } = gathered.of;
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
      ...(tone === null ? {} : { tone }),
      link: "/deadlines",
    };
  });
  const named = new Map(summary.deadlines.map(({ id, name }) => [id, name]));
  const leading = Object.entries(chains).map(([id, names]) => ({
    text: `${named.get(id)}: ${names.length === 0 ? "nothing unfinished leads to it" : names.slice(-CHAIN_NAMES).join(" → ")}`,
    link: "/deadlines",
  }));
  return [
    table(["Promise", "#Promised for", "#Forecast", "How it stands", "Before"], rows, "Nothing has a deadline."),
    ...(leading.length === 0 ? [] : [{ is: "lines" as const, items: leading, none: "" }]),
  ];
}
