import { figuresTogether } from "../project/together.ts";
import { type Column } from "../shared/table/column.ts";
import { type FigureId, figureMeaning, figureExplained } from "../shared/words/figureWords.ts";
import type { ProjectLine, Portfolio } from "@chronometra/contract";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { sinceLockWords, toldOf } from "../shared/words/sinceLock.ts";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { activitiesBehind, anyOf } from "../watch/question/opens.ts";
import type { driftTone } from "../shared/words/words.ts";
import {
  DEADLINE_ORDER,
  DEADLINE_TONES,
  DEADLINE_WORDS,
  type DeadlineState,
  indexTone,
  money,
  percentWords,
  ratioWords,
} from "../shared/words/words.ts";

/** The state of the deadline that stands worst. */
export const worstState = ({ summary }: ProjectLine): DeadlineState | null =>
  DEADLINE_ORDER.find((state) => summary.deadlineCounts[state] !== undefined) ?? null;

/** How many deadlines a project breaks or may break, opening them. */
export function deadlineWords(line: ProjectLine): ReactNode {
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

/** The address of a place in a project. */
export const to = (line: ProjectLine, rest = ""): string => `/projects/${line.id}${rest}`;
/** Words that open a place. */
export const opens = (address: string, words: ReactNode): ReactNode => (
  <Link className="link-quiet" to={address}>
    {words}
  </Link>
);

interface Shown {
  readonly words: (value: number | null, digits: number) => string;
  readonly tone?: (value: number | null) => ReturnType<typeof driftTone>;
  readonly marked?: boolean;
}

/** How a figure is shown: an amount, an index, a share. */
export const AMOUNT: Shown = { words: money };
/** An index, marked by its tone. */
export const INDEX: Shown = { words: ratioWords, tone: indexTone, marked: true };
/** A share of one. */
export const SHARE: Shown = { words: percentWords };

/** A figure in its words and tone. */
export function show({ words, tone, marked }: Shown, value: number | null, digits: number): ReactNode {
  return (
    <Toned tone={tone?.(value) ?? "plain"} marked={marked ?? false}>
      {words(value, digits)}
    </Toned>
  );
}

/** What has changed of a project since its period was locked. */
export const changedSinceLock = ({ locked, summary }: ProjectLine): string[] =>
  locked === null ? [] : sinceLockWords(locked, toldOf(summary), summary);

/** The watchlist of a project's activities in some states. */
export const watchOf = ({ id }: ProjectLine, states: string[]): string => activitiesBehind(id, anyOf("state", states));

/** A column of one figure: in a project's line it opens the activities behind it, sums are formed from sums. */
export const figureColumns =
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
