import type { ReportBlock } from "@chronometra/contract";
import { countWords, dateWords, moneyWords } from "@chronometra/core";
import type { Gathered } from "../../gather.ts";
import { numberCell, pageOf, table, textCell } from "../cells.ts";

export function decisions(gathered: Gathered): ReportBlock[] {
  const { requests, approvals, gates, cycle, of, project } = gathered;
  const waiting = cycle.steps.find(({ name }) => name === "Review")?.open ?? 0;
  const items = [
    ...approvals.map(({ word }) => ({
      text: `The plan is put forward for approval${word === "" ? "" : `: ${word}`}`,
      link: "/approvals",
    })),
    ...(gates.asked === null
      ? []
      : [
          {
            text: `The gate “${gates.asked.gate}” is asked for${gates.asked.word === "" ? "" : `: ${gates.asked.word}`}`,
            link: pageOf(gathered, "stages"),
          },
        ]),
    ...requests.flatMap(({ state, request, name, reason }) =>
      state === "asked"
        ? [
            {
              text: `Change request ${request}, ${name}${reason === null ? "" : `: ${reason}`}`,
              link: pageOf(gathered, "approvals"),
            },
          ]
        : [],
    ),
    ...(waiting > 0
      ? [
          {
            text: `Of time and progress ${countWords(waiting, "entry waits", "entries wait")} for the manager`,
            link: `/time?project=${project.id}`,
          },
        ]
      : []),
    ...of.blocked.map(({ name, by, since }) => ({
      text: `${name} is blocked since ${dateWords(since)}: ${by}`,
      link: "/time/blocked",
    })),
  ];
  return [{ is: "lines", items, none: "No decision is asked for." }];
}

const REQUEST_WORDS: Readonly<Record<string, string>> = {
  asked: "waits",
  approved: "approved",
  sentBack: "sent back",
};

/** Change requests that wait, and those that were decided since the report before; and what is set aside. */
export function requests(gathered: Gathered): ReportBlock[] {
  const { reserves, of, before } = gathered;
  const link = pageOf(gathered, "approvals");
  const told = gathered.requests.filter(
    ({ state, decidedAt }) => state === "asked" || before === null || (decidedAt ?? before.issuedAt) > before.issuedAt,
  );
  const rows = told.map(({ request, name, state, reason, word }) => ({
    cells: [
      request === null ? textCell("") : numberCell(request),
      textCell(name),
      textCell(REQUEST_WORDS[state] ?? state),
      textCell(word ?? reason ?? ""),
    ],
    ...(state === "asked" ? { tone: "undecided" as const } : {}),
    link,
  }));
  const { currency, minorDigits } = of.summary;
  const { contingency, management } = reserves.balances;
  const amount = (minor: number): string => `${moneyWords(minor, minorDigits)} ${currency}`;
  return [
    table(
      ["#No.", "Change request", "State", "Why"],
      rows,
      "No change waits, and none was decided since the last report.",
    ),
    {
      is: "lines",
      items: [
        {
          text: `Of contingency ${amount(contingency)} remain, of management reserve ${amount(management)}.`,
          link,
        },
      ],
      none: "",
    },
  ];
}
