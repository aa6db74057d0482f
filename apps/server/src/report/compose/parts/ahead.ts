import type { ReportBlock } from "@chronometra/contract";
import { dateWords, numberWords, percentWords } from "@chronometra/core";
import { isOver, type Gathered } from "../../gather.ts";
import { pageOf, table, textCell } from "../cells.ts";

const hours = (minutes: number): string => numberWords(minutes / 60, 1);

export function load({ load: { weeks, people } }: Gathered): ReportBlock[] {
  const rows = people
    .filter(({ demand }) => demand.some((minutes) => minutes > 0))
    .map(({ name, capacity, demand }) => ({
      cells: [
        textCell(name),
        ...demand.map((minutes, i) => ({
          text: `${hours(minutes)} of ${hours(capacity[i]!)} h`,
          value: Math.round(minutes / 6) / 10,
        })),
      ],
      ...(demand.some((minutes, i) => isOver(capacity[i]!, minutes)) ? { tone: "adverse" as const } : {}),
      link: "/load",
    }));
  return [
    table(
      ["Hours to do of hours there are", ...weeks.map((week) => `#Week of ${dateWords(week)}`)],
      rows,
      "Nobody has work of this project in the weeks to come.",
    ),
  ];
}

const FITNESS_WORDS = {
  fit: "The plan is fit to be believed.",
  mend: "The plan is fit, with mends.",
  unfit: "The plan is not fit to be believed.",
};
const FITNESS_TONES = { fit: "favourable", mend: "undecided", unfit: "adverse" } as const;

export function trust(gathered: Gathered): ReportBlock[] {
  const { verdict, checks } = gathered.quality;
  const link = pageOf(gathered, "trust");
  const passed = checks.filter(({ passes }) => passes === true).length;
  const judged = checks.filter(({ passes }) => passes !== null).length;
  return [
    {
      is: "lines",
      items: [
        {
          text: `${FITNESS_WORDS[verdict.fitness]} ${passed} of ${judged} checks hold${judged === 0 ? "" : ` (${percentWords(passed / judged)})`}.`,
          tone: FITNESS_TONES[verdict.fitness],
          link,
        },
        ...verdict.reasons.map(({ words, grave }) => ({
          text: words,
          tone: grave ? ("adverse" as const) : ("undecided" as const),
          link,
        })),
        ...(verdict.best === null ? [] : [{ text: `What would help most: ${verdict.best.words}.`, link }]),
      ],
      none: "",
    },
  ];
}
