import { ChevronDown, ChevronUp, X } from "lucide-react";
import { useEffect, useMemo, useRef, useState, type RefObject } from "react";
import { toast } from "../../../shared/messages/toast.ts";
import { countWords } from "../../../shared/words/words.ts";
import { findCells, replaceCells, type Found } from "./find.ts";
import type { Active } from "../PlanSheet.tsx";
import type { SheetRow } from "../../engine/sheet.ts";
import type { Reading, SheetColumn } from "../../engine/sheetColumn.ts";

interface Props {
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
  readonly reading: Reading;
  readonly current: RefObject<Active | null>;
  readonly mayEdit: boolean;
  readonly onGo: (found: Found) => void;
  readonly onClose: () => void;
}

/** Finds texts in the cells that are shown, and replaces them in those that can be typed into. */
export function FindBar({ rows, columns, reading, current, mayEdit, onGo, onClose }: Props) {
  const [text, setText] = useState("");
  const [by, setBy] = useState("");
  // The cell gone to, not its place among those found: that changes with what others do.
  const [gone, setGone] = useState<Found | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const found = useMemo(() => findCells(rows, columns, text.trim(), reading), [rows, columns, text, reading]);
  useEffect(() => field.current?.focus(), []);
  useEffect(() => setGone(null), [text]);
  const at = gone === null ? -1 : found.findIndex(({ id, column }) => id === gone.id && column === gone.column);
  const step = (by: number): void => {
    if (found.length === 0) return;
    const next = (at < 0 && by < 0 ? found.length - 1 : at + by + found.length) % found.length;
    setGone(found[next]!);
    onGo(found[next]!);
  };
  const replace = async (cells: readonly Found[]): Promise<void> => {
    if (current.current === null) return;
    const replaced = replaceCells(cells, rows, columns, text.trim(), by, reading);
    if (replaced.cells === 0) return void toast("None of these cells can be typed into.");
    if (await current.current.work.take(replaced)) toast(`${countWords(replaced.cells, "cell", "cells")} changed.`);
  };
  return (
    <div
      role="search"
      aria-label="Find in the plan"
      className="flex flex-wrap items-center gap-2 border-t rule bg-base-200 px-4 py-0.5 text-sm"
      onKeyDown={(event) => event.key === "Escape" && onClose()}
    >
      <input
        ref={field}
        className="input input-sm h-6 w-48"
        placeholder="Find"
        aria-label="Find"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && step(event.shiftKey ? -1 : 1)}
      />
      <span role="status" className="muted w-28">
        {text.trim() === ""
          ? "in the cells shown"
          : found.length === 0
            ? "nowhere"
            : at < 0
              ? countWords(found.length, "cell", "cells")
              : `${at + 1} of ${found.length}`}
      </span>
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square"
        aria-label="The one before (Shift+Enter)"
        disabled={found.length === 0}
        onClick={() => step(-1)}
      >
        <ChevronUp size={14} aria-hidden="true" />
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square"
        aria-label="The next (Enter)"
        disabled={found.length === 0}
        onClick={() => step(1)}
      >
        <ChevronDown size={14} aria-hidden="true" />
      </button>
      {mayEdit && (
        <>
          <input
            className="input input-sm h-6 w-48"
            placeholder="Replace by"
            aria-label="Replace by"
            value={by}
            onChange={(event) => setBy(event.target.value)}
          />
          <button
            type="button"
            className="btn btn-xs"
            disabled={at < 0 || found[at] === undefined}
            onClick={() => void replace([found[at]!])}
          >
            Replace this
          </button>
          <button
            type="button"
            className="btn btn-xs"
            disabled={found.length === 0}
            onClick={() => void replace(found)}
          >
            Replace all
          </button>
        </>
      )}
      <button type="button" className="btn btn-ghost btn-xs btn-square ml-auto" aria-label="Close" onClick={onClose}>
        <X size={14} aria-hidden="true" />
      </button>
    </div>
  );
}
