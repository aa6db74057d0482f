import { DEADLINE_WORDS, dateWords, type DeadlineState } from "@chronometra/core";
import type { ToldActivityEntity } from "../noticeEntities.ts";
import { subjectOf } from "../notices.ts";
import { listed } from "../standing.ts";

/** How an activity stands, as far as people are told of it. */
type Standing = Pick<ToldActivityEntity, "start" | "finish" | "deadline" | "blocked">;

/** The three kinds of differences that are told together, by activity. */
export type Kind = "moved" | "deadline" | "blocked";

/** What was and what is, in words. */
export interface Line {
  readonly name: string;
  readonly was: string;
  readonly is: string;
}
export type Lines = Record<string, Line>;

/** What stands where there is nothing. */
export const NONE = "";
const datesOf = ({ start, finish }: Standing): string =>
  start === null || finish === null ? NONE : `${dateWords(start)} – ${dateWords(finish)}`;
const deadlineOf = ({ deadline }: Standing): string =>
  deadline === null ? NONE : DEADLINE_WORDS[deadline as DeadlineState];
const blockOf = ({ blocked }: Standing): string => blocked ?? NONE;
/** How an activity stands in words, by kind. */
export const OF: Readonly<Record<Kind, (row: Standing) => string>> = {
  moved: datesOf,
  deadline: deadlineOf,
  blocked: blockOf,
};
export const KINDS = Object.keys(OF) as Kind[];

/** How lines are told. */
export function told(kind: Kind, code: string, lines: Lines): { subject: string; body: string } {
  const rows = Object.values(lines);
  const [first] = rows;
  const words = {
    moved: {
      subject: rows.length === 1 ? `“${first!.name}” has other dates` : `${rows.length} of your dates moved`,
      line: ({ name, was, is }: Line) =>
        `${name}: ${was === NONE ? "no dates" : was} → ${is === NONE ? "no dates" : is}`,
    },
    deadline: {
      subject: rows.length === 1 ? `“${first!.name}”: ${first!.is}` : `${rows.length} deadlines stand otherwise`,
      line: ({ name, was, is }: Line) => `${name}: ${was} → ${is}`,
    },
    blocked: {
      subject:
        rows.length === 1
          ? `“${first!.name}” ${first!.is === NONE ? "is blocked no longer" : "is blocked"}`
          : `${rows.length} blocks came or went`,
      line: ({ name, is }: Line) => (is === NONE ? `${name}: blocked no longer` : `${name}: blocked by ${is}`),
    },
  }[kind];
  return {
    subject: subjectOf(`${code}: ${words.subject}`),
    body: listed(rows.map(words.line)),
  };
}
