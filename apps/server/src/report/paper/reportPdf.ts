import type { Paper, ReportBlock, ReportCell, ReportContent, ReportPart, ReportTone } from "@chronometra/contract";
import { dateWords, drawCurve, drawTrend, type Drawing, type Ink, LETTER } from "@chronometra/core";
import pdfmake from "pdfmake";
import { projectOf } from "../compose/partIds.ts";
import { FONTS, inFonts, runsOf } from "./fonts.ts";
import { plainText } from "./paperWords.ts";

type Definition = Parameters<typeof pdfmake.createPdf>[0];
type Content = Definition["content"];

const OWN_FILES: ReadonlySet<string> = new Set(Object.values(FONTS).flatMap((font) => Object.values(font)));

/** Ink on paper: darker than on a screen, told apart in grey as well. */
const COLOURS: Readonly<Record<Ink, string>> = {
  ink: "#1b2530",
  faint: "#6b737b",
  hair: "#d3cdc0",
  planned: "#3b4a5a",
  earned: "#1f6b5c",
  spent: "#8a6414",
  late: "#a8321f",
};
const TONE_COLOURS: Readonly<Record<ReportTone, string>> = {
  adverse: COLOURS.late,
  favourable: COLOURS.earned,
  undecided: COLOURS.spent,
};
/** Beside a tone always stands a sign. */
const TONE_SIGNS: Readonly<Record<ReportTone, string>> = { adverse: "▼ ", favourable: "▲ ", undecided: "◆ " };
const HAIRLINE = "#b9b3a6";

const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.codePointAt(0)};`);

/** A text in a drawing, in fonts that have its letters. */
const drawnText = (text: string): string =>
  runsOf(plainText(text), "Text")
    .map(({ text: run, font }) =>
      font === "Text" ? escaped(run) : `<tspan font-family="${font}">${escaped(run)}</tspan>`,
    )
    .join("");

/** A drawing as SVG. */
export function svgOf({ width, height, shapes }: Drawing): string {
  const drawn = shapes.map((shape) => {
    if (shape.is === "text")
      return `<text x="${shape.x.toFixed(1)}" y="${shape.y.toFixed(1)}" font-family="Text" font-size="${LETTER}" fill="${COLOURS[shape.ink]}" text-anchor="${shape.anchor}">${drawnText(shape.text)}</text>`;
    const points = shape.points.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join(" ");
    const dash = shape.dash.length === 0 ? "" : ` stroke-dasharray="${shape.dash.join(" ")}"`;
    return `<polyline points="${points}" fill="none" stroke="${COLOURS[shape.ink]}" stroke-width="${shape.width}"${dash}/>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${drawn.join("")}</svg>`;
}

const toned = (tone: ReportTone | undefined): object => (tone === undefined ? {} : { color: TONE_COLOURS[tone] });
const signed = (text: string, tone: ReportTone | undefined): string =>
  `${tone === undefined ? "" : TONE_SIGNS[tone]}${plainText(text)}`;

interface Ruled {
  readonly table: { readonly headerRows?: number | undefined; readonly body: readonly unknown[] };
}

/** Lines under heads and between rows, none around: the same on every table. */
const LAYOUT = {
  hLineWidth: (i: number, { table: { headerRows = 1, body } }: Ruled) =>
    i < headerRows || i === body.length ? 0 : 0.4,
  vLineWidth: () => 0,
  hLineColor: () => HAIRLINE,
  paddingLeft: (i: number) => (i === 0 ? 0 : 5),
  paddingRight: () => 0,
  paddingTop: () => 1.5,
  paddingBottom: () => 1.5,
};

type TableBlock = Extract<ReportBlock, { is: "table" }>;

const headOf = ({ columns }: TableBlock): Content[] =>
  columns.map(({ name, number }) => ({
    text: plainText(name),
    bold: true,
    fontSize: 8,
    alignment: number ? "right" : "left",
  }));

const rowOf = ({ columns }: TableBlock, { cells, tone }: TableBlock["rows"][number]): Content[] =>
  cells.map(({ text }: ReportCell, i) => ({
    text: i === 0 ? signed(text, tone) : plainText(text),
    alignment: columns[i]?.number === true ? "right" : "left",
    noWrap: columns[i]?.number === true,
    ...(i === 0 ? toned(tone) : {}),
  }));

const MANY_COLUMNS = 6;
const LONG_CELL = 24;

/** Whether a column has texts that are to be broken into lines; others are as wide as they must. */
const isLong = ({ rows }: TableBlock, column: number): boolean =>
  rows.some(({ cells }) => (cells[column]?.text.length ?? 0) > LONG_CELL);

/**
 * A table; what stands above it belongs to its head, so that none of it stands alone at the foot of a page, and all of
 * it again where the table goes on.
 */
function tableOf(block: TableBlock, above: readonly Content[]): Content[] {
  const { columns, rows, none, caption } = block;
  const title: Content[] =
    caption === undefined ? [] : [{ text: plainText(caption), bold: true, margin: [0, 4, 0, 2] }];
  if (rows.length === 0)
    return none === "" ? [...above] : [together([...above, ...title, { text: plainText(none), color: COLOURS.faint }])];
  const over = [...above, ...title].map((words) => [
    { stack: [words], colSpan: columns.length },
    ...Array.from({ length: columns.length - 1 }, () => ""),
  ]);
  return [
    {
      table: {
        headerRows: over.length + 1,
        keepWithHeaderRows: 1,
        dontBreakRows: true,
        widths: columns.map(({ number }, i) => (i === 0 || (!number && isLong(block, i)) ? "*" : "auto")),
        body: [...over, headOf(block), ...rows.map((row) => rowOf(block, row))],
      },
      layout: LAYOUT,
      fontSize: columns.length > MANY_COLUMNS ? 7.5 : 9,
    },
  ];
}

const together = (stack: Content[]): Content => ({ stack, unbreakable: true });

const FIGURES_A_LINE = 4;

function figuresOf({ items }: Extract<ReportBlock, { is: "figures" }>): Content {
  const lines: (typeof items)[] = [];
  for (let i = 0; i < items.length; i += FIGURES_A_LINE) lines.push(items.slice(i, i + FIGURES_A_LINE));
  return {
    stack: lines.map((line) => ({
      columns: [
        ...line.map(({ name, value, change, tone }) => ({
          width: `${100 / FIGURES_A_LINE}%`,
          stack: [
            { text: plainText(name), fontSize: 8, color: COLOURS.faint },
            {
              text: [
                { text: tone === undefined ? "" : TONE_SIGNS[tone], fontSize: 9 },
                { text: plainText(value.text), font: "Head", fontSize: 12 },
              ],
              ...toned(tone),
            },
            { text: plainText(change === "" ? " " : change), fontSize: 8 },
          ],
        })),
      ],
      columnGap: 6,
      margin: [0, 2, 0, 4],
      unbreakable: true,
    })),
  } as Content;
}

function saidOf({ name, words, rating, why, text }: Extract<ReportBlock, { is: "said" }>): Content[] {
  const tone = ({ well: "favourable", care: "undecided", trouble: "adverse" } as const)[rating];
  return [
    {
      text: [
        { text: `${plainText(name)}  `, bold: true },
        { text: signed(words, tone), ...toned(tone), bold: true },
        { text: `  ${plainText(why)}`, fontSize: 8, color: COLOURS.faint },
      ],
    },
    { text: plainText(text), margin: [0, 1, 0, 5] },
  ];
}

function contentsOf(block: ReportBlock): Content[] {
  switch (block.is) {
    case "figures":
      return [figuresOf(block)];
    case "table":
      return tableOf(block, []);
    case "lines":
      return block.items.length === 0
        ? block.none === ""
          ? []
          : [{ text: plainText(block.none), color: COLOURS.faint }]
        : block.items.map(({ text, tone }) => ({ text: signed(text, tone), ...toned(tone), margin: [0, 0, 0, 2] }));
    case "said":
      return saidOf(block);
    case "curve":
      return [{ svg: svgOf(drawCurve(block)), width: 500, margin: [0, 4, 0, 0] }];
    case "trend":
      return [{ svg: svgOf(drawTrend(block)), width: 500, margin: [0, 6, 0, 0] }];
  }
}

/** A part of a report; its heading does not stand alone at the foot of a page. */
function partOf({ title, level, blocks: [first, ...rest] }: ReportPart, isListed: boolean): Content[] {
  const heading: Content = {
    text: plainText(title),
    style: level === 1 ? "part" : "below",
    ...(isListed ? { tocItem: true, tocStyle: "toc" } : {}),
  };
  const others = rest.flatMap(contentsOf);
  if (first === undefined) return [heading];
  // A heading that is listed in the contents is listed once, and so is not repeated with a table.
  if (first.is === "table" && !isListed) return [...tableOf(first, [heading]), ...others];
  const [head, ...tail] = contentsOf(first);
  return [...(head === undefined ? [heading] : [together([heading, head])]), ...tail, ...others];
}

function contentOf({ title, under, period, dataDate, of, manager, parts }: ReportContent, issued: string): Content[] {
  const front = of === "group" ? parts.filter((part) => projectOf(part) === null) : parts;
  const details = of === "group" ? parts.filter((part) => projectOf(part) !== null) : [];
  return [
    { text: plainText(title), style: "title" },
    {
      text: [
        plainText(`${under} · report of period ${period}, data date ${dateWords(dataDate)}`),
        plainText(manager === "" ? "" : ` · manager ${manager}`),
        plainText(` · ${issued}`),
      ],
      color: COLOURS.faint,
      margin: [0, 2, 0, 0],
    },
    ...front.flatMap((part) => partOf(part, false)),
    ...(details.length === 0
      ? []
      : [{ toc: { title: { text: "Contents", style: "part" } }, pageBreak: "before" as const }]),
    ...details.flatMap((part, i): Content[] => {
      const isFirst = i === 0 || projectOf(details[i - 1]!) !== projectOf(part);
      return [...(isFirst ? [{ text: "", pageBreak: "before" as const }] : []), ...partOf(part, isFirst)];
    }),
  ];
}

/** Styles that give a font. */
const FONT_OF_STYLE = { title: "Head", part: "Head", below: "Head" } as const;

const LONGEST_IN_HEAD = 60;
const shortened = (title: string): string =>
  title.length <= LONGEST_IN_HEAD ? title : `${title.slice(0, LONGEST_IN_HEAD).trimEnd()}…`;

/** How a report lies on paper. */
function definitionOf(content: ReportContent, paper: Paper, issued: string): Definition {
  const { organisation, title, period, dataDate } = content;
  const name = `${shortened(plainText(title))} · report ${period}, ${dateWords(dataDate)}`;
  return {
    pageSize: paper,
    pageMargins: [42, 48, 42, 44],
    info: { title: name, author: plainText(organisation), creator: "Chronometra" },
    defaultStyle: { font: "Text", fontSize: 9, color: COLOURS.ink, lineHeight: 1.1 },
    styles: {
      title: { font: FONT_OF_STYLE.title, bold: true, fontSize: 20 },
      part: { font: FONT_OF_STYLE.part, bold: true, fontSize: 13, margin: [0, 12, 0, 4] },
      below: { font: FONT_OF_STYLE.below, fontSize: 11, margin: [0, 8, 0, 3] },
      toc: { fontSize: 9 },
    },
    header: inFonts(
      {
        columns: [
          { text: shortened(plainText(organisation)), width: "*" },
          { text: name, alignment: "right", width: "auto" },
        ],
        fontSize: 8,
        color: COLOURS.faint,
        margin: [42, 22, 42, 0],
      },
      FONT_OF_STYLE,
    ),
    footer: (page, pages) => ({
      text: `${page} of ${pages}`,
      alignment: "right",
      fontSize: 8,
      color: COLOURS.faint,
      margin: [42, 12, 42, 0],
    }),
    content: inFonts(contentOf(content, issued), FONT_OF_STYLE),
  };
}

/**
 * A report as PDF, with its own fonts, charts as vectors, page numbers and a running head; of a group with contents.
 * @param issued how it was issued, in words; or that it is not
 * @param onShare told the share that is drawn, 0 to 1
 */
export async function reportPdf(
  content: ReportContent,
  paper: Paper,
  issued: string,
  onShare: (share: number) => void = () => undefined,
): Promise<Buffer> {
  pdfmake.setFonts(FONTS);
  // What a report says is text: nothing in it is fetched, and no file is read but the fonts.
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path: string) => OWN_FILES.has(path));
  pdfmake.setProgressCallback(onShare);
  return pdfmake.createPdf(definitionOf(content, paper, issued)).getBuffer();
}
