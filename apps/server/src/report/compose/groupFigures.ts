import type { ReportBlock, ReportContent, Summary } from "@chronometra/contract";
import {
  commonMoney,
  figuresTogether,
  moneyWords,
  ratioWords,
  type CommonMoney,
  type Exchange,
} from "@chronometra/core";
import { moneyCell, ratioCell } from "./cells.ts";
import type { GroupMember } from "./groupMember.ts";

type FigureItem = Extract<ReportBlock, { is: "figures" }>["items"][number];
type Curve = Extract<ReportBlock, { is: "curve" }>;

/** What a report of before said of a figure, as a number. */
function saidBefore(last: ReportContent | null): (name: string) => number | null {
  const items = (last?.parts ?? [])
    .filter(({ id }) => id === "sums")
    .flatMap(({ blocks }) => blocks)
    .flatMap((block) => (block.is === "figures" ? block.items : []));
  const known = new Map(items.map(({ name, value }) => [name, value.value]));
  return (name) => {
    const value = known.get(name);
    return typeof value === "number" ? value : null;
  };
}

const signed = (by: number, words: string): string => `${by > 0 ? "+" : "−"}${words}`;

interface Summed {
  readonly members: readonly (GroupMember & { readonly summary: Summary })[];
  readonly common: CommonMoney;
  readonly last: ReportContent | null;
}

/** The sums of the projects, and the indices formed from them, each with its change since the report before. */
function items({ members, common, last }: Summed): FigureItem[] {
  const measured = members.flatMap(({ summary: { currency, minorDigits, figures } }) =>
    figures === null ? [] : [{ currency, minorDigits, figures }],
  );
  const figures = figuresTogether(measured, common);
  if (figures === null || common.money === null) return [];
  const { currency, minorDigits: digits } = common.money;
  const before = saidBefore(last);
  const amount = (what: string, minor: number | null): FigureItem => {
    const name = `${what}, ${currency}`;
    const was = before(name);
    const by = was === null || minor === null ? null : minor - Math.round(was * 10 ** digits);
    const words = by === null ? "" : moneyWords(Math.abs(by), digits);
    return {
      name,
      value: moneyCell(minor, digits),
      change: by === null ? "" : words === "0" ? "as before" : signed(by, words),
    };
  };
  const index = (name: string, value: number | null): FigureItem => {
    const was = before(name);
    const by = was === null || value === null ? null : value - was;
    return {
      name,
      value: ratioCell(value),
      change: by === null ? "" : Math.abs(by) < 0.005 ? "as before" : signed(by, ratioWords(Math.abs(by))),
      ...(value === null || ratioWords(value) === "1.00" ? {} : { tone: value < 1 ? "adverse" : "favourable" }),
    };
  };
  return [
    amount("Budget at completion", figures.bac),
    amount("Planned value", figures.pv),
    amount("Earned value", figures.ev),
    amount("Actual cost", figures.ac),
    index("SPI", figures.spi),
    index("CPI", figures.cpi),
    amount("Estimate at completion", figures.eac),
    amount("Variance at completion", figures.vac),
  ];
}

const curveOf = (content: ReportContent | null): Curve | undefined =>
  content?.parts.flatMap(({ blocks }) => blocks).find((block) => block.is === "curve");

/**
 * The curves of the projects, added up on the days of which each says something: before it begins it has nothing, after
 * its end all that it had last.
 */
function curve({ members, common }: Summed, dataDate: string): Curve | null {
  const curves = members.flatMap(({ content }) => curveOf(content) ?? []);
  if (curves.length === 0 || common.money === null) return null;
  const dates = [...new Set(curves.flatMap(({ points }) => points.map(({ date }) => date)))].sort();
  const pointAt = ({ points }: Curve, date: string): Curve["points"][number] | undefined => {
    if (date < points[0]!.date) return { date, pv: 0, ev: 0, ac: 0 };
    const end = points.at(-1)!;
    if (date <= end.date) return points.find((point) => point.date === date);
    const known = (key: "ev" | "ac"): number | null => points.findLast((point) => point[key] !== null)?.[key] ?? null;
    return { date, pv: end.pv, ev: date <= dataDate ? known("ev") : null, ac: date <= dataDate ? known("ac") : null };
  };
  const points = dates.flatMap((date) => {
    const there = curves.map((each) => ({ each, point: pointAt(each, date) }));
    if (there.some(({ point }) => point === undefined)) return [];
    const sum = (key: "pv" | "ev" | "ac"): number | null =>
      there.reduce<number | null>((all, { each, point }) => {
        const amount = point![key];
        return all === null || amount === null ? null : all + common.convert(amount, each);
      }, 0);
    return [{ date, pv: sum("pv") ?? 0, ev: sum("ev"), ac: sum("ac") }];
  });
  return { is: "curve", ...common.money, dataDate, points };
}

interface Asked {
  readonly members: readonly GroupMember[];
  readonly exchange: Exchange | null;
  readonly dataDate: string;
  readonly last: ReportContent | null;
}

/** The figures of a group's projects together, as they were issued. */
export function groupFigures({ members, exchange, dataDate, last }: Asked): ReportBlock[] {
  const known = members.flatMap((each) => (each.summary?.figures == null ? [] : [{ ...each, summary: each.summary }]));
  const common = commonMoney(
    known.map(({ summary }) => summary),
    exchange,
    dataDate,
  );
  if (known.length === 0) return [{ is: "lines", items: [], none: "No project has issued figures of this period." }];
  if (common.money === null)
    return [
      {
        is: "lines",
        items: [],
        none: `There is no sum: no exchange rate of ${common.missing.join(", ")} is known for that day.`,
      },
    ];
  const summed = { members: known, common, last };
  const drawn = curve(summed, dataDate);
  return [{ is: "figures", items: items(summed) }, ...(drawn === null || drawn.points.length < 2 ? [] : [drawn])];
}
