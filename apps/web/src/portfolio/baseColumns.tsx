import { PROJECT_STATE_WORDS, type Portfolio, type ProjectLine } from "@chronometra/contract";
import { Link } from "react-router";
import type { Column } from "../shared/table/column.ts";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { comparedTo, movedOf, moveWords } from "../project/logLines.ts";
import { figuresTogether } from "../project/together.ts";
import {
  countWords,
  dateWords,
  DEADLINE_ORDER,
  DEADLINE_WORDS,
  driftTone,
  driftWords,
  sinceWords,
  varianceTone,
  varianceWords,
} from "../shared/words/words.ts";
import { worstState, deadlineWords, to, opens, AMOUNT, INDEX, SHARE, watchOf, figureColumns } from "./shownFigures.tsx";

/** How a project stands where it is not simply running. */
const stateIn = ({ closed, state }: ProjectLine): string =>
  closed ? "closed" : state === "running" ? "" : PROJECT_STATE_WORDS[state];

/** What is said of a project whatever its figures. */
const SAID: readonly Column<ProjectLine>[] = [
  { id: "manager", head: "Manager", value: ({ manager }) => manager, hidden: true },
  { id: "stage", head: "Stage", value: ({ stage }) => stage, hidden: true },
  { id: "state", head: "State", value: (line) => stateIn(line) || PROJECT_STATE_WORDS.running, hidden: true },
];

/** All columns but those that the portfolio makes itself. */
export function baseColumns(portfolio: Portfolio): readonly Column<ProjectLine>[] {
  const figureColumn = figureColumns(portfolio);
  return [
    {
      id: "name",
      head: "Project",
      value: ({ code, name }) => `${code} ${name}`,
      show: (line) => (
        <Link
          className="flex max-w-56 gap-1 font-semibold link-quiet"
          to={to(line)}
          title={`${line.code} ${line.name}${stateIn(line) === "" ? "" : `, ${stateIn(line)}`}`}
        >
          <span className="muted max-w-20 shrink-0 truncate font-normal">{line.code}</span>{" "}
          <span className="truncate">{line.name}</span>
          {stateIn(line) !== "" && (
            <span className="muted shrink-0 font-normal whitespace-nowrap">{stateIn(line)}</span>
          )}
        </Link>
      ),
    },
    ...SAID,
    {
      id: "done",
      head: "Finished",
      hint: "Activities finished, of all that have dates",
      numeric: true,
      value: ({ summary }) => summary.done,
      show: (line) => opens(`${watchOf(line, ["complete"])}`, `${line.summary.done} of ${line.summary.activities}`),
      total: (lines) => lines.reduce((sum, { summary }) => sum + summary.done, 0),
      hidden: true,
    },
    {
      id: "open",
      head: "Open",
      hint: "Activities not finished yet",
      numeric: true,
      value: ({ summary }) => summary.activities - summary.done,
      show: (line) => opens(watchOf(line, ["notStarted", "inProgress"]), line.summary.activities - line.summary.done),
      total: (lines) => lines.reduce((sum, { summary }) => sum + summary.activities - summary.done, 0),
      hidden: true,
    },
    {
      id: "daysLeft",
      head: "Days remaining",
      is: "days",
      hint: "Working days from the data date to the finish",
      numeric: true,
      value: ({ summary }) => summary.daysLeft,
      show: ({ summary }) => (summary.daysLeft === null ? "–" : `${Math.round(summary.daysLeft)} d`),
      hidden: true,
    },
    {
      id: "finish",
      head: "Finishes",
      value: ({ summary }) => summary.finish,
      show: (line) => opens(to(line, "/plan"), dateWords(line.summary.finish)),
    },
    {
      id: "drift",
      head: "Drift",
      is: "days",
      hint: "Current finish against the approved one, in working days",
      numeric: true,
      value: ({ summary }) => summary.drift,
      show: (line) =>
        opens(
          to(
            line,
            line.summary.baseline === null
              ? "/plan"
              : `/compare?from=baseline-${line.summary.baseline}&to=plan&why=finish`,
          ),
          <Toned tone={driftTone(line.summary.drift)}>{driftWords(line.summary.drift)}</Toned>,
        ),
    },
    {
      id: "moved",
      head: sinceWords(portfolio.projects.flatMap(({ comparedNumber }) => comparedNumber ?? [])),
      is: "days",
      hint: "How far the finish has moved against the last period before the open one",
      numeric: true,
      value: movedOf,
      show: (line) => {
        const days = movedOf(line);
        return days === null ? "–" : opens(comparedTo(line), <Toned tone={driftTone(days)}>{moveWords(days)}</Toned>);
      },
    },
    {
      id: "milestone",
      head: "Worst milestone",
      hidden: true,
      value: ({ summary }) => summary.worst?.drift ?? null,
      says: ({ summary: { worst } }) => (worst === null ? null : `${worst.name}, ${driftWords(worst.drift)}`),
      show: (line) => {
        const { worst } = line.summary;
        return worst === null ? (
          <span className="muted">none open</span>
        ) : (
          opens(
            to(line, "/dates"),
            <>
              <span className="inline-block max-w-30 truncate align-bottom" title={worst.name}>
                {worst.name}
              </span>{" "}
              <Toned tone={driftTone(worst.drift)}>{driftWords(worst.drift)}</Toned>
            </>,
          )
        );
      },
    },
    {
      id: "deadlines",
      head: "Deadlines",
      value: (line) => {
        const state = worstState(line);
        return state === null ? null : DEADLINE_ORDER.indexOf(state);
      },
      says: ({ summary }) =>
        DEADLINE_ORDER.flatMap((state) =>
          summary.deadlineCounts[state] === undefined
            ? []
            : [`${summary.deadlineCounts[state]} ${DEADLINE_WORDS[state]}`],
        ).join(", "),
      show: (line) => opens(`/deadlines?project=${line.id}`, deadlineWords(line)),
    },
    ...(new Set(portfolio.projects.map(({ summary }) => summary.currency)).size > 1
      ? [
          {
            id: "currency",
            head: "In",
            hint: "The currency of the amounts",
            value: ({ summary }: ProjectLine) => summary.currency,
            total: (lines: readonly ProjectLine[]) =>
              figuresTogether(lines, portfolio, portfolio.projects)?.summedIn.currency ?? "–",
          },
        ]
      : []),
    figureColumn("bac", "BAC", AMOUNT),
    figureColumn("pv", "PV", AMOUNT, true),
    figureColumn("ev", "EV", AMOUNT, true),
    figureColumn("ac", "AC", AMOUNT, true),
    figureColumn("sv", "SV", {
      words: (value, digits) => varianceWords(value, digits, "behind", "ahead"),
      tone: varianceTone,
    }),
    figureColumn("cv", "CV", {
      words: (value, digits) => varianceWords(value, digits, "over", "under"),
      tone: varianceTone,
    }),
    figureColumn("spi", "SPI", INDEX),
    figureColumn("cpi", "CPI", INDEX),
    figureColumn("eac", "EAC", AMOUNT, true),
    figureColumn(
      "vac",
      "VAC",
      { words: (value, digits) => varianceWords(value, digits, "over", "under"), tone: varianceTone },
      true,
    ),
    figureColumn("percentComplete", "Earned", SHARE, true),
    {
      id: "missing",
      head: "Not reported",
      hint: "People with work in this period who have reported nothing",
      numeric: true,
      value: ({ missing }) => missing.length,
      show: ({ id, missing }) =>
        missing.length === 0 ? (
          <span className="muted">all in</span>
        ) : (
          <Link
            className="undecided link-quiet"
            to={`/cycle/missing?project=${id}`}
            title={missing.map(({ name }) => name).join(", ")}
          >
            {countWords(missing.length, "person", "people")}
          </Link>
        ),
      total: (lines) => {
        const count = new Set(lines.flatMap(({ missing }) => missing.map(({ id }) => id))).size;
        return count === 0 ? <span className="muted">all in</span> : countWords(count, "person", "people");
      },
    },
    {
      id: "waiting",
      head: "To review",
      hint: "Reports that wait for acceptance",
      numeric: true,
      value: ({ waiting }) => waiting,
      show: (line) => (line.waiting === 0 ? "–" : opens(`/time?project=${line.id}`, line.waiting)),
      total: (lines) => lines.reduce((sum, { waiting }) => sum + waiting, 0),
    },
  ];
}
