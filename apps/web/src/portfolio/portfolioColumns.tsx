import type { Paths, Portfolio, ProjectLine } from "@chronometra/contract";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Column } from "../shared/table/column.ts";
import { sinceLockWords, toldOf } from "../shared/words/sinceLock.ts";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { activitiesBehind, anyOf } from "../watch/opens.ts";
import { DriftLine } from "./DriftLine.tsx";
import { FITNESS_TONES, FITNESS_WORDS } from "../quality/fitnessWords.ts";
import { comparedTo, movedOf, moveWords, rulesBroken, trustOf } from "../project/logLines.ts";
import { figureExplained, figureMeaning, type FigureId } from "../shared/words/figureWords.ts";
import { ownFieldColumn } from "./OwnFieldCell.tsx";
import { figuresTogether } from "../project/together.ts";
import { RATING_TONES, RATING_WORDS } from "./SaysDialog.tsx";
import {
  countWords,
  dateWords,
  DEADLINE_ORDER,
  DEADLINE_TONES,
  DEADLINE_WORDS,
  type DeadlineState,
  driftTone,
  driftWords,
  indexTone,
  money,
  percentWords,
  ratioWords,
  sinceWords,
  varianceTone,
  varianceWords,
} from "../shared/words/words.ts";

const worstState = ({ summary }: ProjectLine): DeadlineState | null =>
  DEADLINE_ORDER.find((state) => summary.deadlineCounts[state] !== undefined) ?? null;

function deadlineWords(line: ProjectLine): ReactNode {
  const states = DEADLINE_ORDER.flatMap((state) => {
    const count = line.summary.deadlineCounts[state];
    return count === undefined ? [] : [{ state, count }];
  });
  if (states.length === 0) return "–";
  return states.map(({ state, count }, i) => (
    <span key={state}>
      {i > 0 && ", "}
      <Toned tone={DEADLINE_TONES[state]}>
        {count} {DEADLINE_WORDS[state]}
      </Toned>
    </span>
  ));
}

const to = (line: ProjectLine, rest = ""): string => `/projects/${line.id}${rest}`;
const opens = (address: string, words: ReactNode): ReactNode => (
  <Link className="link-quiet" to={address}>
    {words}
  </Link>
);

interface Shown {
  readonly words: (value: number | null, digits: number) => string;
  readonly tone?: (value: number | null) => ReturnType<typeof driftTone>;
  readonly marked?: boolean;
}

const AMOUNT: Shown = { words: money };
const INDEX: Shown = { words: ratioWords, tone: indexTone, marked: true };
const SHARE: Shown = { words: percentWords };

function show({ words, tone, marked }: Shown, value: number | null, digits: number): ReactNode {
  return (
    <Toned tone={tone?.(value) ?? "plain"} marked={marked ?? false}>
      {words(value, digits)}
    </Toned>
  );
}

/** A column of one figure: in a project's line it opens the activities behind it, sums are formed from sums. */
const figureColumns =
  (portfolio: Portfolio) =>
  (id: FigureId, head: string, shown: Shown, hidden = false): Column<ProjectLine> => {
    const isAmount = shown !== INDEX && shown !== SHARE;
    return {
      id,
      head,
      hint: figureMeaning(id),
      explains: ({ summary }) =>
        summary.figures === null ? null : figureExplained(id, summary.figures, summary.minorDigits),
      hidden,
      numeric: true,
      value: ({ summary }) => summary.figures?.[id] ?? null,
      show: (line) =>
        line.summary.figures === null
          ? "–"
          : opens(to(line, `?sort=${id}`), show(shown, line.summary.figures[id], line.summary.minorDigits)),
      total: (lines) => {
        const together = figuresTogether(lines, portfolio, portfolio.projects);
        return together === null ? "–" : show(shown, together.figures[id], together.summedIn.minorDigits);
      },
      ...(isAmount
        ? { money: ({ summary }: ProjectLine) => summary }
        : shown === SHARE
          ? { is: "share" as const }
          : {}),
    };
  };

/** What has changed of a project since its period was locked. */
const changedSinceLock = ({ locked, summary }: ProjectLine): string[] =>
  locked === null ? [] : sinceLockWords(locked, toldOf(summary), summary);

/** The watchlist of a project's activities in some states. */
const watchOf = ({ id }: ProjectLine, states: string[]): string => activitiesBehind(id, anyOf("state", states));

/** All columns but those that the portfolio makes itself. */
function baseColumns(portfolio: Portfolio): readonly Column<ProjectLine>[] {
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
          title={`${line.code} ${line.name}${line.closed ? ", closed" : ""}`}
        >
          <span className="muted max-w-20 shrink-0 truncate font-normal">{line.code}</span>{" "}
          <span className="truncate">{line.name}</span>
          {line.closed && <span className="muted font-normal">closed</span>}
        </Link>
      ),
    },
    { id: "manager", head: "Manager", value: ({ manager }) => manager, hidden: true },
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

/** The columns of the portfolio's table: the figures, what managers say, how drift went, and own fields. */
export function portfolioColumns(
  portfolio: Portfolio,
  paths: Paths,
  onSays: (line: ProjectLine) => void,
): readonly Column<ProjectLine>[] {
  const base = baseColumns(portfolio);
  const at = base.findIndex(({ id }) => id === "drift");
  const says: Column<ProjectLine> = {
    id: "says",
    head: "Manager's note",
    hint: "A rating and a word of the manager",
    value: ({ says: said }) =>
      said === null ? null : `${RATING_WORDS[said.rating]}${said.note === "" ? "" : `: ${said.note}`}`,
    show: (line) => {
      const words =
        line.says === null ? (
          <span className="muted">{line.mayEdit ? "say" : "–"}</span>
        ) : (
          <Toned tone={RATING_TONES[line.says.rating]} marked>
            {RATING_WORDS[line.says.rating]}
          </Toned>
        );
      const title =
        line.says === null
          ? "Nothing said yet"
          : `${line.says.note}\n${line.says.by}, ${dateWords(line.says.at.slice(0, 10))}`;
      return line.mayEdit ? (
        <button
          type="button"
          className="link-quiet min-h-[24px] min-w-[24px] cursor-pointer text-left"
          title={title}
          onClick={() => onSays(line)}
        >
          {words}
        </button>
      ) : (
        <span title={title}>{words}</span>
      );
    },
  };
  const trust: Column<ProjectLine> = {
    id: "trust",
    head: "Trust",
    hint: "Whether its plan is fit, by the fourteen checks",
    value: (line) => ["fit", "mend", "unfit"].indexOf(trustOf(line, portfolio.qualityLimits).fitness),
    says: (line) => FITNESS_WORDS[trustOf(line, portfolio.qualityLimits).fitness],
    show: (line) => {
      const { fitness, failed } = trustOf(line, portfolio.qualityLimits);
      return opens(
        to(line, "/trust"),
        <Toned tone={FITNESS_TONES[fitness]} marked>
          {FITNESS_WORDS[fitness]}
          {failed.length > 0 && `, ${failed.length}`}
        </Toned>,
      );
    },
    hidden: true,
  };
  const path: Column<ProjectLine> = {
    id: "path",
    head: "Drift by period",
    value: ({ id, summary }) =>
      [...(paths[id] ?? []).map(({ drift }) => drift), summary.drift]
        .map((drift) => (drift === null ? "–" : Math.round(drift * 10) / 10))
        .join(" "),
    show: ({ id, summary }) => <DriftLine path={paths[id] ?? []} now={summary.drift} />,
  };
  const rules: Column<ProjectLine> = {
    id: "rules",
    head: "Limits broken",
    hint: "Limits of the portfolio that it breaks, each to be explained",
    numeric: true,
    value: (line) => rulesBroken(line, portfolio).length,
    show: (line) => {
      const count = rulesBroken(line, portfolio).length;
      return count === 0
        ? "–"
        : opens(
            `/cycle?step=Explain&project=${line.id}`,
            <Toned tone="undecided">{countWords(count, "limit", "limits")}</Toned>,
          );
    },
    total: (lines) => lines.reduce((sum, line) => sum + rulesBroken(line, portfolio).length, 0),
    hidden: true,
  };
  const sinceLock: Column<ProjectLine> = {
    id: "sinceLock",
    head: "Since lock",
    hint: "What has changed since the period was locked whose figures these are",
    value: (line) => changedSinceLock(line).join(" · ") || null,
    show: (line) => {
      const words = changedSinceLock(line);
      return line.locked === null ? (
        "–"
      ) : words.length === 0 ? (
        <span className="muted">as locked</span>
      ) : (
        <Link
          className="undecided link-quiet inline-flex min-h-[24px] items-center"
          title={words.join("\n")}
          to={to(line, `/compare?from=period-${line.locked.number}&to=plan&why=finish`)}
        >
          {words.length} changed
        </Link>
      );
    },
    hidden: portfolio.projects.every((line) => changedSinceLock(line).length === 0),
  };
  return [
    ...base.slice(0, at + 1),
    path,
    ...base.slice(at + 1),
    sinceLock,
    trust,
    rules,
    says,
    ...portfolio.fields.map(ownFieldColumn),
  ];
}
