import type { RefObject } from "react";
import type { Scale } from "../chart/scale.ts";
import type { Ghosts } from "../engine/planEngine.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import type { SheetColumn } from "../engine/sheetColumn.ts";
import type { RefusedText } from "./cells/gridState.ts";
import type { ChartLook } from "../chart/chartLook.ts";
import { SheetLine, type LineActions } from "./SheetLine.tsx";
import type { useGrid } from "./cells/useGrid.ts";
import type { useLines } from "./panes/useLines.ts";

const NO_REFUSED: readonly RefusedText[] = [];

interface Props {
  readonly lines: ReturnType<typeof useLines>;
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
  readonly grid: ReturnType<typeof useGrid>;
  readonly source: RefObject<Sheet>;
  readonly minorDigits: number;
  readonly left: number;
  readonly scale: Scale;
  readonly folded: ReadonlySet<string>;
  readonly mayEdit: boolean;
  readonly look: ChartLook;
  readonly ghosts: Ghosts | null;
  readonly others: ReadonlyMap<string, string>;
  readonly on: LineActions;
}

/** The rows in sight. Each is given only what it shows, so that it is drawn again only where that changes. */
export function SheetLines({ lines, rows, grid, folded, look, ghosts, others, ...shared }: Props) {
  const { cursor, state, chosen, chosenIds, holdsFocus } = grid;
  const isRange = chosen.rows.length > 1 || chosen.left !== chosen.right;
  const { source, minorDigits, columns, left, scale, mayEdit, on } = shared;
  return lines.map(({ key, index, start }) => {
    const row = rows[index]!;
    const inBlock = isRange && chosenIds.has(row.id);
    const refused = state.refused.length === 0 ? NO_REFUSED : state.refused.filter(({ id }) => id === row.id);
    const colour = look.colouring?.of(row) ?? null;
    return (
      <SheetLine
        key={key}
        row={row}
        index={index}
        top={start}
        source={source}
        minorDigits={minorDigits}
        columns={columns}
        left={left}
        scale={scale}
        at={cursor.row === index ? cursor.column : null}
        from={inBlock ? chosen.left : 1}
        to={inBlock ? chosen.right : 0}
        editing={state.typing?.id === row.id ? state.typing : null}
        refused={refused.length === 0 ? NO_REFUSED : refused}
        folded={row.children > 0 ? folded.has(row.id) : null}
        holdsFocus={holdsFocus}
        mayEdit={mayEdit}
        withApproved={look.withApproved}
        colour={colour?.colour ?? null}
        coloured={colour?.value ?? null}
        dim={look.lit !== null && !look.lit.has(row.id)}
        ghost={ghosts?.get(row.id) ?? null}
        others={others.get(row.id) ?? null}
        on={on}
      />
    );
  });
}
