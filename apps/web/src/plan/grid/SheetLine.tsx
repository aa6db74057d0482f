import { memo, type KeyboardEvent, type PointerEvent, type RefObject } from "react";
import { Lane } from "../chart/Lane.tsx";
import { laneShapes } from "../chart/laneShapes.ts";
import { ROW_HEIGHT, widthOf, xOf, type Scale } from "../chart/scale.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import { SheetCell } from "./cells/SheetCell.tsx";
import type { SheetColumn } from "../engine/sheetColumn.ts";
import type { RefusedText, Typing } from "./cells/gridState.ts";
import { SCROLLED } from "./panes/usePane.ts";

/** What can be done with a line; the same objects all the while. */
export interface LineActions {
  readonly focus: (row: number, column: number, extend: boolean) => void;
  readonly begin: (row: number, column: number) => void;
  readonly fold: (id: string, open: boolean) => void;
  readonly text: (text: string) => void;
  readonly leave: (text: string) => void;
  readonly editKey: (event: KeyboardEvent<HTMLInputElement>) => void;
  readonly grip: (event: PointerEvent) => void;
}

interface Props {
  readonly row: SheetRow;
  readonly index: number;
  readonly top: number;
  /**
   * The sheet as it is, for what a cell may be chosen from: kept apart from the row, so that only rows that change are
   * drawn anew.
   */
  readonly source: RefObject<Sheet>;
  readonly minorDigits: number;
  readonly columns: readonly SheetColumn[];
  readonly left: number;
  readonly scale: Scale;
  /** The column the keyboard stands on, where it stands on this row. */
  readonly at: number | null;
  /** The columns of the chosen block that lie on this row. */
  readonly from: number;
  readonly to: number;
  readonly editing: Typing | null;
  /** What the plan refused in cells of this row. */
  readonly refused: readonly RefusedText[];
  readonly folded: boolean | null;
  readonly holdsFocus: RefObject<boolean>;
  readonly mayEdit: boolean;
  readonly withApproved: boolean;
  readonly colour: string | null;
  readonly coloured: string | null;
  readonly dim: boolean;
  readonly ghost: { readonly start: number; readonly finish: number } | null;
  /** Others who stand on this row. */
  readonly others: string | null;
  readonly on: LineActions;
}

/** One row of the plan: its cells, and its lane in the chart. */
export const SheetLine = memo(function SheetLine(props: Props) {
  const {
    row,
    index,
    top,
    source,
    minorDigits,
    columns,
    left,
    scale,
    at,
    from,
    to,
    editing,
    refused,
    folded,
    holdsFocus,
    mayEdit,
    withApproved,
    colour,
    coloured,
    dim,
    ghost,
    others,
    on,
  } = props;
  const active = at !== null;
  const cell = (column: SheetColumn, i: number) => (
    <SheetCell
      key={column.id}
      row={row}
      column={column}
      source={source}
      minorDigits={minorDigits}
      width={column.width}
      index={i}
      active={at === i}
      chosen={i >= from && i <= to}
      editing={editing?.column === column.id ? editing : null}
      refused={refused.find((entry) => entry.column === column.id) ?? null}
      folded={folded}
      holdsFocus={holdsFocus}
      onFocus={(extend) => on.focus(index, i, extend)}
      onBegin={() => on.begin(index, i)}
      onFold={() => on.fold(row.id, folded === true)}
      onText={on.text}
      onLeave={on.leave}
      onEditKey={on.editKey}
      {...(mayEdit && active
        ? {
            onGrip: (event: PointerEvent) => {
              on.focus(index, 0, false);
              on.grip(event);
            },
          }
        : {})}
    />
  );
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-level={row.depth + 1}
      aria-selected={active}
      {...(folded !== null ? { "aria-expanded": !folded } : {})}
      className="absolute left-0 flex border-b rule"
      style={{
        top,
        height: ROW_HEIGHT,
        width: left + widthOf(scale),
        ...(editing !== null ? { zIndex: 3 } : { contain: "strict" }),
      }}
    >
      <div
        role="presentation"
        className={`sticky left-0 z-2 flex border-r border-base-content ${active ? "bg-base-200" : "bg-base-100"}`}
        style={{
          width: left,
          clipPath: "inset(0 0 -100vh 0)",
          ...(others === null ? {} : { boxShadow: "inset 3px 0 0 var(--brass)" }),
        }}
        title={others === null ? undefined : `${others} is here`}
      >
        {cell(columns[0]!, 0)}
        <div role="presentation" className="flex shrink-0" style={SCROLLED}>
          {columns.slice(1).map((column, i) => cell(column, i + 1))}
        </div>
      </div>
      <svg role="presentation" width={widthOf(scale)} height={ROW_HEIGHT} className="block shrink-0">
        <Lane
          shapes={laneShapes(row, scale, withApproved)}
          summary={row.kind === "summary"}
          height={ROW_HEIGHT}
          coloured={colour === null ? null : { colour, value: coloured! }}
          dim={dim}
          ghost={ghost === null ? null : [xOf(scale, ghost.start), xOf(scale, ghost.finish)]}
        />
      </svg>
    </div>
  );
});
