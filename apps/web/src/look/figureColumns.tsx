import type { ProjectLook } from "@chronometra/contract";
import type { Figures, Money } from "@chronometra/core";
import type { Column } from "../shared/column.ts";
import { Toned } from "../shared/Toned.tsx";
import { indexTone, money, percentWords, ratioWords, varianceTone, varianceWords, type Tone } from "../shared/words.ts";

export type FigureRow = ProjectLook["rows"][number];

interface Shape {
  readonly id: string;
  readonly head: string;
  readonly hint: string;
  readonly of: (figures: Figures) => number | null;
  readonly words: (value: number | null, digits: number) => string;
  readonly tone?: (value: number | null) => Tone;
  readonly marked?: true;
  readonly hidden?: true;
}

const behind = (value: number | null, digits: number): string => varianceWords(value, digits, "behind", "ahead");
const over = (value: number | null, digits: number): string => varianceWords(value, digits, "over", "under");

const SHAPES: readonly Shape[] = [
  { id: "bac", head: "BAC", hint: "Budget at completion", of: ({ bac }) => bac, words: money },
  { id: "percentComplete", head: "Earned", hint: "EV / BAC", of: ({ percentComplete }) => percentComplete, words: percentWords },
  { id: "pv", head: "PV", hint: "Planned value", of: ({ pv }) => pv, words: money },
  { id: "ev", head: "EV", hint: "Earned value", of: ({ ev }) => ev, words: money },
  { id: "ac", head: "AC", hint: "Actual cost", of: ({ ac }) => ac, words: money },
  { id: "sv", head: "SV", hint: "Schedule variance, EV − PV", of: ({ sv }) => sv, words: behind, tone: varianceTone },
  { id: "cv", head: "CV", hint: "Cost variance, EV − AC", of: ({ cv }) => cv, words: over, tone: varianceTone },
  { id: "spi", head: "SPI", hint: "EV / PV", of: ({ spi }) => spi, words: ratioWords, tone: indexTone, marked: true },
  { id: "cpi", head: "CPI", hint: "EV / AC", of: ({ cpi }) => cpi, words: ratioWords, tone: indexTone, marked: true },
  { id: "eac", head: "EAC", hint: "Estimate at completion, BAC / CPI", of: ({ eac }) => eac, words: money },
  { id: "vac", head: "VAC", hint: "Variance at completion, BAC − EAC", of: ({ vac }) => vac, words: over, tone: varianceTone },
  { id: "tcpiBac", head: "TCPI", hint: "(BAC − EV) / (BAC − AC)", of: ({ tcpiBac }) => tcpiBac, words: ratioWords, hidden: true },
  { id: "eacBottomUp", head: "EAC from what is left", hint: "AC and the remaining work at its rates", of: ({ eacBottomUp }) => eacBottomUp, words: money, hidden: true },
  { id: "eacRemaining", head: "EAC at plan", hint: "AC + BAC − EV", of: ({ eacRemaining }) => eacRemaining, words: money, hidden: true },
];

/** Columns of figures by branch and activity; a number opens what stands behind it. */
export function figureColumns(kind: Money, depthOf: (row: FigureRow) => number, onOpen: (row: FigureRow) => void): Column<FigureRow>[] {
  return [
    {
      id: "name",
      head: "Branch or activity",
      value: ({ name }) => name,
      show: (row) => (
        <button type="button" className={`link-quiet max-w-90 truncate text-left cursor-pointer ${row.kind === "summary" ? "font-semibold" : ""}`} style={{ paddingLeft: depthOf(row) * 14 }} title={row.name} onClick={() => onOpen(row)} disabled={row.left}>
          {row.name}{row.left && <span className="muted"> · left the plan</span>}
        </button>
      ),
    },
    ...SHAPES.map(
      ({ id, head, hint, of, words, tone, marked, hidden }): Column<FigureRow> => ({
        id,
        head,
        hint,
        numeric: true,
        ...(words === ratioWords ? {} : words === percentWords ? { is: "share" as const } : { money: () => kind }),
        hidden: hidden ?? false,
        value: ({ figures }) => (figures === null ? null : of(figures)),
        show: (row) => {
          if (row.figures === null) return "–";
          const value = of(row.figures);
          return (
            <button type="button" className="link-quiet cursor-pointer" tabIndex={-1} onClick={() => onOpen(row)} disabled={row.left}>
              <Toned tone={tone?.(value) ?? "plain"} marked={marked ?? false}>{words(value, kind.minorDigits)}</Toned>
            </button>
          );
        },
      }),
    ),
  ];
}
