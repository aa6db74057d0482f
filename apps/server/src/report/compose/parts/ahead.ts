import type { ReportBlock } from "@chronometra/contract";
import { dateWords, FITNESS_WORDS, numberWords } from "@chronometra/core";
import { weeksOver, type Gathered } from "../../gather.ts";
import { pageOf, table, textCell } from "../cells.ts";

const hours = (minutes: number): string => numberWords(minutes / 60, 1);

export function load({ load: { weeks, people } }: Gathered): ReportBlock[] {
  const rows = people
    .filter(({ demand }) => demand.some((minutes) => minutes > 0))
    .map((person) => ({
      cells: [
        textCell(person.placeholder ? `${person.name}, nobody yet` : person.name),
        ...person.demand.map((minutes, i) => ({
          text: person.placeholder ? `${hours(minutes)} h` : `${hours(minutes)} of ${hours(person.capacity[i]!)} h`,
          value: Math.round(minutes / 6) / 10,
        })),
      ],
      ...(weeksOver(person).includes(true) ? { tone: "adverse" as const } : {}),
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
          text: `${FITNESS_WORDS[verdict.fitness]}: ${passed} of ${judged} checks hold.`,
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
