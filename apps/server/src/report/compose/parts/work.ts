import type { ReportBlock } from "@chronometra/contract";
import { dateWords, numberWords } from "@chronometra/core";
import type { Gathered } from "../../gather.ts";
import type { Named } from "../../reportWorks.ts";
import { dateCell, driftCell, pageOf, table, textCell } from "../cells.ts";

const MOST_WORK = 25;

/** Rows of work, the first of them, and how many more there are. */
function workTable(gathered: Gathered, caption: string, work: readonly Named[], none: string): ReportBlock {
  const rows = work.slice(0, MOST_WORK).map(({ id, name, milestone, start, finish, drift: days, people }) => ({
    cells: [
      textCell(milestone ? `◆ ${name}` : name),
      dateCell(start),
      dateCell(finish),
      driftCell(days),
      textCell(people.join(", ")),
    ],
    link: pageOf(gathered, `plan?at=${encodeURIComponent(id)}`),
  }));
  if (work.length > MOST_WORK)
    rows.push({
      cells: [
        textCell(`and ${numberWords(work.length - MOST_WORK, 0)} more`),
        ...Array.from({ length: 4 }, () => textCell("")),
      ],
      link: pageOf(gathered, "plan"),
    });
  return table(["Activity", "#Start", "#Finish", "#Drift", "People"], rows, none, caption);
}

export const done = (gathered: Gathered): ReportBlock[] => [
  workTable(gathered, "Finished", gathered.of.finished, "Nothing was finished in this period."),
  workTable(gathered, "Begun", gathered.of.begun, "Nothing was begun in this period and is under way."),
];

export const next = (gathered: Gathered): ReportBlock[] => [
  workTable(
    gathered,
    `To begin up to ${dateWords(gathered.until)}`,
    gathered.of.next,
    `Nothing is to begin up to ${dateWords(gathered.until)}.`,
  ),
];
