import type { ReportBlock } from "@chronometra/contract";
import { causeWords, countWords, dateWords, GROUP_WORDS, movedWords, roundedDays } from "@chronometra/core";
import type { Gathered } from "../../gather.ts";
import { driftTone, pageOf, table, textCell } from "../cells.ts";

const CAUSES = 6;
const DAY_FRACTION = 0.05;

export function drift(gathered: Gathered): ReportBlock[] {
  const { drift: ledger, before } = gathered;
  const none = (text: string): ReportBlock[] => [{ is: "lines", items: [], none: text }];
  if (before === null || ledger === null) return none("This is the first report; there is none to compare with.");
  if (typeof ledger === "string") return none(ledger);
  const causes = ledger.causes
    .filter(({ days }) => Math.abs(days) >= DAY_FRACTION)
    .toSorted((a, b) => Math.abs(b.days) - Math.abs(a.days));
  const shown = causes.slice(0, CAUSES);
  const rest = causes.slice(CAUSES);
  const moved = roundedDays(ledger.days) === 0 ? "no worked time apart" : movedWords(ledger.days);
  const link = pageOf(gathered, `compare?from=period-${before.number}&to=plan`);
  const rows = shown.map((cause) => ({
    cells: [
      textCell(causeWords(cause)),
      textCell(GROUP_WORDS[cause.group]),
      { text: movedWords(cause.days), value: roundedDays(cause.days) },
    ],
    ...driftTone(cause.days),
    link,
  }));
  if (rest.length > 0) {
    const days = rest.reduce((sum, each) => sum + each.days, 0);
    rows.push({
      cells: [
        textCell(countWords(rest.length, "other cause", "other causes")),
        textCell(""),
        { text: movedWords(days), value: roundedDays(days) },
      ],
      link,
    });
  }
  return [
    {
      is: "lines",
      items: [
        {
          text: `Since period ${before.number} the finish moved from ${dateWords(ledger.from)} to ${dateWords(ledger.to)}: ${moved}.`,
          link,
        },
      ],
      none: "",
    },
    table(["Cause", "Kind", "#Moved the finish"], rows, "Nothing moved it."),
  ];
}
