import type { WatchAbout, WatchAnswer, WatchQuestion } from "@chronometra/contract";
import type { CalendarDay } from "./calendars/calendarText.ts";

/** Rows that one file may hold; a question that finds more is to be narrowed. */
export const EXPORTED_AT_MOST = 20_000;

/** The rows as days of a calendar; the question must have asked for the fields of {@link withCalendarFields}. */
export const calendarDays = ({ about }: WatchQuestion, { rows }: WatchAnswer): CalendarDay[] =>
  rows.flatMap(({ project, key, values }): CalendarDay[] => {
    const [from, to] =
      "date" in values
        ? [values["date"], values["date"]]
        : [values["kind"] === "milestone" ? values["finish"] : values["start"], values["finish"]];
    if (typeof from !== "string" || typeof to !== "string") return [];
    return [
      {
        id: `${about}-${project}-${key}`,
        from,
        to: to < from ? from : to,
        title: [values["risk"], values["name"] ?? key].filter((part) => part != null).join(": "),
        words: String(values["project"] ?? ""),
        path: `/projects/${project}${about === "activities" ? `/plan?at=${encodeURIComponent(key)}` : ""}`,
      },
    ];
  });

const CALENDAR_FIELDS: Readonly<Record<WatchAbout, string[]>> = {
  activities: ["name", "project", "kind", "start", "finish"],
  time: ["name", "project", "date"],
  costs: ["name", "project", "date"],
  risks: ["risk", "name", "project", "start", "finish"],
};

/** The question with the fields that a calendar needs. */
export const withCalendarFields = (question: WatchQuestion): WatchQuestion => ({
  ...question,
  group: null,
  pivot: null,
  columns: CALENDAR_FIELDS[question.about],
});

interface Form {
  readonly type: string;
  readonly ask: (question: WatchQuestion) => WatchQuestion;
}

/** How the answer to a question leaves, by the ending of the file. */
export const WATCH_FORMS = {
  csv: { type: "text/csv", ask: (question) => question },
  xlsx: {
    type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    ask: (question) => question,
  },
  ics: { type: "text/calendar", ask: withCalendarFields },
} satisfies Readonly<Record<string, Form>>;
export type WatchForm = keyof typeof WATCH_FORMS;

export const isWatchForm = (form: string): form is WatchForm => Object.hasOwn(WATCH_FORMS, form);
