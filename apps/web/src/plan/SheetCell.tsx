import { useEffect, useRef, type KeyboardEvent, type RefObject } from "react";
import type { SheetColumn } from "./sheetColumns.ts";
import type { SheetRow } from "./sheet.ts";
import type { Editing } from "./useGrid.ts";

interface Props {
  readonly row: SheetRow;
  readonly column: SheetColumn;
  readonly index: number;
  readonly active: boolean;
  /** Whether it belongs to the block that is chosen. */
  readonly chosen: boolean;
  readonly editing: Editing | null;
  readonly folded: boolean | null;
  /** Whether the keyboard is in the grid, so that the active cell takes the focus. */
  readonly holdsFocus: RefObject<boolean>;
  readonly onFocus: (extend: boolean) => void;
  readonly onBegin: () => void;
  readonly onFold: () => void;
  readonly onText: (text: string) => void;
  readonly onLeave: (text: string) => void;
  readonly onEditKey: (event: KeyboardEvent<HTMLInputElement>) => void;
  /** The field is there and has the keyboard. */
  readonly onReady: () => void;
}

const INDENT = 14;

function Field({ row, column, editing, onText, onLeave, onEditKey, onReady }: Pick<Props, "row" | "column" | "onText" | "onLeave" | "onEditKey" | "onReady"> & { editing: Editing }) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    field.current?.focus();
    if (editing.selected) field.current?.select();
    onReady();
  }, []);
  return (
    <>
      <input ref={field} className={`h-full w-full bg-base-100 px-1 outline-2 -outline-offset-2 ${editing.fault === null ? "outline-accent" : "outline-error"} ${column.numeric === true ? "text-right" : ""}`} aria-label={`${column.head} of ${row.name}`} aria-invalid={editing.fault !== null} value={editing.text} onChange={(event) => onText(event.target.value)} onKeyDown={onEditKey} onBlur={(event) => onLeave(event.target.value)} />
      {editing.fault !== null && <div role="alert" className="absolute top-full left-0 z-20 w-64 bg-error px-2 py-1 text-left whitespace-normal text-error-content">{editing.fault}</div>}
    </>
  );
}

/** Computed cells are muted, news is coloured, summaries are bold, what is chosen is marked. */
function lookOf({ row, column, active, chosen }: Props, open: boolean): string {
  const tone = column.tone?.(row) ?? "plain";
  const name = column.id === "name";
  const colour = tone !== "plain" ? tone : open || name ? "" : "muted";
  const marks = [active ? "outline-2 -outline-offset-2 outline-accent" : "", chosen ? "bg-accent/15" : ""];
  return [column.numeric === true ? "justify-end" : "", colour, name && row.kind === "summary" ? "font-semibold" : "", ...marks].join(" ");
}

/** A cell of the plan's table; computed ones look computed. */
export function SheetCell(props: Props) {
  const { row, column, index, active, chosen, editing, folded, holdsFocus, onFocus, onBegin, onFold } = props;
  const cell = useRef<HTMLDivElement>(null);
  const waiting = active && editing === null;
  useEffect(() => {
    if (waiting && holdsFocus.current) cell.current?.focus({ preventScroll: true });
  }, [waiting, holdsFocus]);
  const name = column.id === "name";
  const open = column.edit !== undefined && column.closed?.(row) === null;
  return (
    <div ref={cell} role={name ? "rowheader" : "gridcell"} aria-colindex={index + 1} aria-label={name ? row.name : undefined} aria-readonly={!open} tabIndex={active ? 0 : -1} className={`relative flex h-full shrink-0 items-center px-1.5 whitespace-nowrap ${lookOf(props, open)}`} style={{ width: column.width, ...(name ? { paddingLeft: 6 + row.depth * INDENT } : {}) }} aria-selected={active || chosen} onMouseDown={editing === null ? (event) => onFocus(event.shiftKey) : undefined} onMouseEnter={(event) => event.buttons === 1 && editing === null && onFocus(true)} onDoubleClick={onBegin} title={name || column.isLinks === true ? column.text(row) : open || column.edit === undefined ? undefined : (column.closed?.(row) ?? undefined)}>
      {editing !== null ? (
        <Field {...props} editing={editing} />
      ) : (
        <>
          {name && folded !== null && <button type="button" tabIndex={-1} className="mr-1 w-3 shrink-0 cursor-pointer text-[9px]" aria-label={folded ? `Unfold ${row.name}` : `Fold ${row.name}`} onClick={onFold}>{folded ? "▶" : "▼"}</button>}
          {name && folded === null && <span className="mr-1 w-3 shrink-0" />}
          <span className={`truncate ${row.parked ? "italic line-through decoration-1" : ""}`}>{column.text(row)}</span>
        </>
      )}
    </div>
  );
}
