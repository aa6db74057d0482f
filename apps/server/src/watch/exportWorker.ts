import { OWN_PREFIX, WATCH_FIELDS, type WatchAnswer, type WatchQuestion, type WatchRow } from "@chronometra/contract";
import { Workbook } from "@cj-tech-master/excelts";
import Papa from "papaparse";
import { move } from "piscina";
import { harmless } from "../exchange/sheets/toSheets.ts";
import { calendarText } from "./calendars/calendarText.ts";
import { calendarDays, type WatchForm } from "./exportForms.ts";

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

/** Where the app is that the file came from, and when it was made. */
interface Made {
  readonly origin: string;
  readonly at: string;
}

type Write = (question: WatchQuestion, answer: WatchAnswer, made: Made) => Buffer | Promise<Buffer>;

const WRITE: Readonly<Record<WatchForm, Write>> = {
  csv,
  xlsx,
  ics: (question, answer, { origin, at }) => {
    const days = calendarDays(question, answer).map((day) => ({ ...day, sequence: 0, changedAt: new Date(at) }));
    return Buffer.from(calendarText("Watchlist", days, origin));
  },
};

interface Job {
  readonly form: WatchForm;
  readonly question: WatchQuestion;
  readonly answer: WatchAnswer;
  readonly made: Made;
}

/** Writes the answer to a question as a file, away from the thread that answers calls. */
export default async function run({ form, question, answer, made }: Job): Promise<Uint8Array> {
  return move(Uint8Array.from(await WRITE[form](question, answer, made))) as unknown as Uint8Array;
}
