import type { KeyboardEvent } from "react";

const STEPS: Record<string, readonly [rows: number, cells: number]> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

const targetIn = (cell: HTMLElement): HTMLElement =>
  cell.querySelector<HTMLElement>("a, button, input, select") ?? cell;

/** Arrow keys go from cell to cell of a table: to the link or field in it, else to the cell itself. */
export function moveCellFocus(event: KeyboardEvent<HTMLTableElement>): void {
  const step = STEPS[event.key];
  const from = event.target as HTMLElement;
  const cell = from.closest<HTMLTableCellElement>("td, th");
  if (step === undefined || cell === null || from.matches("input:not([type=checkbox]), textarea, select")) return;
  const rows = [...event.currentTarget.rows];
  const row = rows[rows.indexOf(cell.parentElement as HTMLTableRowElement) + step[0]];
  const next = row?.cells[cell.cellIndex + step[1]];
  if (next === undefined) return;
  event.preventDefault();
  targetIn(next).focus();
}
