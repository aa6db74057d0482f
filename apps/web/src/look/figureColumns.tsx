import type { ProjectLook } from "@chronometra/contract";
import type { Money } from "@chronometra/core";
import type { Column } from "../shared/table/column.ts";
import { figureExplained, figureMeaning, type FigureId } from "../shared/words/figureWords.ts";
import { Toned } from "../shared/dialogs/Toned.tsx";
import {
  indexTone,
  money,
  percentWords,
  ratioWords,
  varianceTone,
  varianceWords,
  type Tone,
} from "../shared/words/words.ts";

export type FigureRow = ProjectLook["rows"][number];

interface Shape {
  readonly id: FigureId;
  readonly head: string;
  readonly words: (value: number | null, digits: number) => string;
  readonly tone?: (value: number | null) => Tone;
  readonly marked?: true;
  readonly hidden?: true;
}

const behind = (value: number | null, digits: number): string => varianceWords(value, digits, "behind", "ahead");
const over = (value: number | null, digits: number): string => varianceWords(value, digits, "over", "under");

const SHAPES: readonly Shape[] = [
  { id: "bac", head: "BAC", words: money },
  { id: "percentComplete", head: "Earned", words: percentWords },
  { id: "pv", head: "PV", words: money },
  { id: "ev", head: "EV", words: money },
  { id: "ac", head: "AC", words: money },
  { id: "sv", head: "SV", words: behind, tone: varianceTone },
  { id: "cv", head: "CV", words: over, tone: varianceTone },
  { id: "spi", head: "SPI", words: ratioWords, tone: indexTone, marked: true },
  { id: "cpi", head: "CPI", words: ratioWords, tone: indexTone, marked: true },
  { id: "eac", head: "EAC", words: money },
  { id: "vac", head: "VAC", words: over, tone: varianceTone },
  { id: "tcpiBac", head: "TCPI", words: ratioWords, hidden: true },
  { id: "eacBottomUp", head: "EAC from what remains", words: money, hidden: true },
  { id: "eacRemaining", head: "EAC at plan", words: money, hidden: true },
];

/** Columns of figures by branch and activity; a number opens what stands behind it. */
export function figureColumns(
  kind: Money,
  depthOf: (row: FigureRow) => number,
  onOpen: (row: FigureRow) => void,
): Column<FigureRow>[] {
  return [
    {
      id: "name",
      head: "Branch or activity",
      value: ({ name }) => name,
      show: (row) => (
        <button
          type="button"
          className={`link-quiet max-w-90 truncate text-left cursor-pointer ${row.kind === "summary" ? "font-semibold" : ""}`}
          style={{ paddingLeft: depthOf(row) * 14 }}
          title={row.name}
          onClick={() => onOpen(row)}
          disabled={row.left}
        >
          {row.name}
          {row.left && <span className="muted"> · left the plan</span>}
        </button>
      ),
    },
    ...SHAPES.map(({ id, head, words, tone, marked, hidden }): Column<FigureRow> => ({
      id,
      head,
      hint: figureMeaning(id),
      explains: ({ figures }) => (figures === null ? null : figureExplained(id, figures, kind.minorDigits)),
      numeric: true,
      ...(words === ratioWords ? {} : words === percentWords ? { is: "share" as const } : { money: () => kind }),
      hidden: hidden ?? false,
      value: ({ figures }) => figures?.[id] ?? null,
      show: (row) => {
        if (row.figures === null) return "–";
        const value = row.figures[id];
        return (
          <button
            type="button"
            className="link-quiet cursor-pointer"
            tabIndex={-1}
            onClick={() => onOpen(row)}
            disabled={row.left}
          >
            <Toned tone={tone?.(value) ?? "plain"} marked={marked ?? false}>
              {words(value, kind.minorDigits)}
            </Toned>
          </button>
        );
      },
    })),
  ];
}
