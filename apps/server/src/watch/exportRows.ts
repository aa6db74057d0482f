import {
  OWN_PREFIX,
  WATCH_FIELDS,
  type WatchAbout,
  type WatchAnswer,
  type WatchQuestion,
  type WatchRow,
} from "@chronometra/contract";
import { Workbook } from "@cj-tech-master/excelts";
import Papa from "papaparse";
import { harmless } from "../exchange/toSheets.ts";
import { calendarText, type CalendarDay } from "./calendarText.ts";

/** Rows that one file may hold; a question that finds more is to be narrowed. */
export const EXPORTED_AT_MOST = 20_000;

const headOf = ({ about }: WatchQuestion, name: string): string =>
  name.startsWith(OWN_PREFIX) ? name.slice(OWN_PREFIX.length) : WATCH_FIELDS[about][name]!.head;

/** A value as a spreadsheet wants it: amounts in whole units, hours as hours. */
function cellOf({ about }: WatchQuestion, row: WatchRow, name: string): string | number | null {
  const value = row.values[name] ?? null;
  const type = name.startsWith(OWN_PREFIX) ? "text" : WATCH_FIELDS[about][name]!.type;
  if (typeof value === "number")
    return type === "amount" ? value / 10 ** row.minorDigits : type === "hours" ? value / 60 : value;
  return value === null ? null : harmless(String(value));
}

function table(question: WatchQuestion, answer: WatchAnswer): { heads: string[]; rows: (string | number | null)[][] } {
  const names =
    question.group === null || question.columns.includes(question.group)
      ? question.columns
      : [question.group, ...question.columns];
  return {
    heads: [...names.map((name) => headOf(question, name)), "Currency"],
    rows: answer.rows.map((row) => [
      ...names.map((name) =>
        name === question.group && !question.columns.includes(name)
          ? row.group === null
            ? null
            : harmless(row.group)
          : cellOf(question, row, name),
      ),
      row.currency,
    ]),
  };
}

function csv(question: WatchQuestion, answer: WatchAnswer): Buffer {
  const { heads, rows } = table(question, answer);
  return Buffer.from(`\uFEFF${Papa.unparse({ fields: heads, data: rows }, { newline: "\r\n" })}`);
}

async function xlsx(question: WatchQuestion, answer: WatchAnswer): Promise<Buffer> {
  const { heads, rows } = table(question, answer);
  const workbook = new Workbook();
  const page = workbook.addWorksheet("Watchlist", { views: [{ state: "frozen", ySplit: 1 }] });
  page.addRow(heads).font = { bold: true };
  for (const row of rows) page.addRow(row);
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

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
  readonly write: (question: WatchQuestion, answer: WatchAnswer) => Buffer | Promise<Buffer>;
}

/** How the answer to a question leaves, by the ending of the file. */
export const WATCH_FORMS: Readonly<Record<string, Form>> = {
  csv: { type: "text/csv", ask: (question) => question, write: csv },
  xlsx: {
    type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    ask: (question) => question,
    write: xlsx,
  },
  ics: {
    type: "text/calendar",
    ask: withCalendarFields,
    write: (question, answer) => Buffer.from(calendarText("Watchlist", calendarDays(question, answer))),
  },
};
