import type { PeopleWeek } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { type ReactNode } from "react";
import { Link } from "react-router";
import type { Column } from "../../shared/table/column.ts";
import { momentWords } from "../../shared/words/words.ts";
import { anyOf, timeBehind } from "../../watch/question/opens.ts";
import { isMissing, overUnderWords, sheetWords } from "./sheetWords.ts";
import { shiftDays } from "../weekSums.ts";

/** One person's week. */
export type Line = PeopleWeek["people"][number];
const hours = (minutes: number): string => (minutes === 0 ? "" : formatHours(minutes));

/** A figure of someone's week that opens the rows it is made of. */
const opens = (minutes: number, to: string, tone = ""): ReactNode =>
  minutes === 0 ? (
    ""
  ) : (
    <Link className={`link-quiet ${tone}`} to={to}>
      {hours(minutes)}
    </Link>
  );

/** The columns of everyone's week; each figure opens its rows. */
export function columnsOf(
  week: string,
  chosen: ReadonlySet<string>,
  onChoose: (id: string, on: boolean) => void,
): readonly Column<Line>[] {
  const load = ({ id }: Line): string => `/load?from=${week}&who=${encodeURIComponent(id)}&week=${week}`;
  const booked = ({ id, projects }: Line): string =>
    timeBehind(
      projects.map(({ project }) => project),
      week,
      shiftDays(week, 6),
      anyOf("person", [id]),
    );
  const sum = (pick: (line: Line) => number) => (lines: readonly Line[]) =>
    hours(lines.reduce((total, line) => total + pick(line), 0));
  return [
    {
      id: "tick",
      head: "Select",
      tool: true,
      value: () => null,
      show: ({ id, name }) => (
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          aria-label={`Select ${name}`}
          checked={chosen.has(id)}
          onChange={(event) => onChoose(id, event.target.checked)}
        />
      ),
    },
    {
      id: "name",
      head: "Person",
      value: ({ name }) => name,
      show: ({ name, projects }) => (
        <span
          title={projects
            .map(
              (own) =>
                `${own.name}: ${formatHours(own.postedMinutes + own.waitingMinutes)} booked, ${formatHours(own.plannedMinutes)} planned`,
            )
            .join("\n")}
        >
          {name}
        </span>
      ),
    },
    {
      id: "state",
      head: "Week",
      value: (line) => sheetWords(line),
      show: (line) => (
        <span
          className={
            line.sheet?.state === "approved"
              ? "favourable"
              : line.sheet?.state === "sent"
                ? "undecided"
                : isMissing(line)
                  ? "adverse"
                  : "muted"
          }
        >
          {sheetWords(line)}
        </span>
      ),
    },
    {
      id: "expected",
      is: "minutes",
      head: "Expected",
      hint: "By their calendar, leave taken off",
      numeric: true,
      value: ({ expectedMinutes }) => expectedMinutes,
      show: (line) => opens(line.expectedMinutes, load(line)),
      total: sum(({ expectedMinutes }) => expectedMinutes),
    },
    {
      id: "planned",
      is: "minutes",
      head: "Planned",
      hint: "What the plans ask of them in this week",
      numeric: true,
      value: ({ plannedMinutes }) => plannedMinutes,
      show: (line) => opens(line.plannedMinutes, load(line)),
      total: sum(({ plannedMinutes }) => plannedMinutes),
    },
    {
      id: "posted",
      is: "minutes",
      head: "Accepted",
      numeric: true,
      value: ({ postedMinutes }) => postedMinutes,
      show: (line) => opens(line.postedMinutes, booked(line)),
      total: sum(({ postedMinutes }) => postedMinutes),
    },
    {
      id: "waiting",
      is: "minutes",
      head: "Waiting",
      numeric: true,
      value: ({ waitingMinutes }) => waitingMinutes,
      show: (line) =>
        opens(line.waitingMinutes, `/time?person=${encodeURIComponent(line.name)}&week=${week}`, "undecided"),
      total: sum(({ waitingMinutes }) => waitingMinutes),
    },
    {
      id: "against",
      is: "minutes",
      head: "Against planned",
      numeric: true,
      value: ({ postedMinutes, waitingMinutes, plannedMinutes }) => postedMinutes + waitingMinutes - plannedMinutes,
      show: overUnderWords,
    },
    { id: "projects", head: "On", wraps: true, value: ({ projects }) => projects.map(({ name }) => name).join(", ") },
    {
      id: "reminded",
      head: "Reminded",
      value: ({ remindedAt }) => remindedAt,
      show: ({ remindedAt }) => (remindedAt === null ? "" : momentWords(remindedAt)),
    },
  ];
}
