import type { ReportBlock, ReportCell, ReportContent, ReportPart } from "@chronometra/contract";
import { dateWords } from "@chronometra/core";
import { Workbook } from "@cj-tech-master/excelts";
import { harmless } from "../../exchange/sheets/toSheets.ts";
import { projectOf } from "../compose/partIds.ts";
import { plainText } from "./paperWords.ts";

type Value = string | number | Date;
interface Row {
  readonly cells: readonly Value[];
  readonly bold?: true;
}

const text = (words: string): string => harmless(plainText(words)) as string;
const DATE = /^\d{4}-\d{2}-\d{2}$/;

/** A number as number and a date as date, so that they can be counted with; whatever else is text. */
const valueOf = ({ text: words, value }: ReportCell): Value =>
  typeof value === "number"
    ? value
    : value !== undefined && DATE.test(value)
      ? new Date(`${value}T00:00:00Z`)
      : text(words);

const row = (...cells: readonly Value[]): Row => ({ cells });
const head = (...cells: readonly string[]): Row => ({ cells: cells.map(text), bold: true });

function rowsOf(block: ReportBlock): Row[] {
  switch (block.is) {
    case "figures":
      return [
        head("Figure", "Value", "As read", "Since the last report"),
        ...block.items.map(({ name, value, change }) =>
          row(text(name), valueOf(value), text(value.text), text(change)),
        ),
      ];
    case "table":
      return [
        ...(block.caption === undefined ? [] : [head(block.caption)]),
        ...(block.rows.length === 0
          ? [row(text(block.none))]
          : [
              head(...block.columns.map(({ name }) => name)),
              ...block.rows.map(({ cells }) => row(...cells.map(valueOf))),
            ]),
      ];
    case "lines":
      return block.items.length === 0 ? [row(text(block.none))] : block.items.map((item) => row(text(item.text)));
    case "said":
      return [row(text(block.name), text(block.words), text(block.why)), row("", text(block.text))];
    case "curve":
      return [
        head("Date", `Planned, ${block.currency}`, `Earned, ${block.currency}`, `Spent, ${block.currency}`),
        ...block.points.map(({ date, pv, ev, ac }) => {
          const amount = (minor: number | null): Value => (minor === null ? "" : minor / 10 ** block.minorDigits);
          return row(new Date(`${date}T00:00:00Z`), amount(pv), amount(ev), amount(ac));
        }),
      ];
    case "trend":
      return [
        head("Milestone", ...block.dates.map((date) => `forecast on ${dateWords(date)}`)),
        ...block.lines.map(({ name, forecasts }) =>
          row(text(name), ...forecasts.map((date): Value => (date === null ? "" : new Date(`${date}T00:00:00Z`)))),
        ),
      ];
  }
}

const FORBIDDEN_IN_NAMES = /[\\/?*[\]:']/g;
const LONGEST_NAME = 31;

/** A report as a workbook: a sheet for its front, and of a group one for each project. */
export async function reportBook(content: ReportContent, issued: string): Promise<Buffer> {
  const workbook = new Workbook();
  const sheets = new Map<string, ReportPart[]>();
  content.parts.forEach((part) => {
    const name = (content.of === "project" ? null : projectOf(part)) ?? "Report";
    sheets.set(name, [...(sheets.get(name) ?? []), part]);
  });
  for (const [name, parts] of sheets) {
    const sheet = workbook.addWorksheet(name.replace(FORBIDDEN_IN_NAMES, "-").slice(0, LONGEST_NAME));
    const add = ({ cells, bold }: Row): void => {
      const added = sheet.addRow([...cells]);
      if (bold === true) added.font = { bold: true };
      cells.forEach((cell, i) => {
        if (cell instanceof Date) added.getCell(i + 1).numFmt = "yyyy-mm-dd";
      });
    };
    if (name === "Report") {
      add(head(content.title));
      add(row(text(content.under)));
      add(row(text(`Report of period ${content.period}, data date ${dateWords(content.dataDate)}`)));
      add(row(text(issued)));
      if (content.manager !== "") add(row(text(content.manager)));
    }
    for (const part of parts) {
      add(row(""));
      add(head(part.title));
      for (const block of part.blocks) for (const each of rowsOf(block)) add(each);
    }
    sheet.getColumn(1).width = 42;
    for (let i = 2; i <= 9; i++) sheet.getColumn(i).width = 18;
  }
  return Buffer.from(await workbook.xlsx.writeBuffer());
}
