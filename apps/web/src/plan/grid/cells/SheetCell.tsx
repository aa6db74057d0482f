import { ChevronDown, ChevronRight, GripVertical } from "lucide-react";
import {
  useEffect,
  useId,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type MouseEvent,
  type PointerEvent,
  type RefObject,
} from "react";
import { completionsOf, type Completion } from "./completion.ts";
import type { SheetColumn } from "../../engine/sheetColumn.ts";
import type { Sheet, SheetRow } from "../../engine/sheet.ts";
import type { RefusedText, Typing } from "./gridState.ts";
import { MOORING } from "../../chart/mooring.ts";
import { useWord } from "../../../project/useWord.ts";

/** The mark of what is parked, called as its project calls it. */
function Parked() {
  return (
    <svg
      className="mr-1 shrink-0"
      width="12"
      height="12"
      viewBox="0 0 12 12"
      role="img"
      aria-label={useWord()("parked")}
    >
      <path d={MOORING} fill="none" stroke="currentColor" strokeWidth="1.2" />
    </svg>
  );
}

interface Props {
  readonly row: SheetRow;
  readonly column: SheetColumn;
  readonly source: RefObject<Sheet>;
  readonly minorDigits: number;
  readonly width: number;
  readonly index: number;
  readonly active: boolean;
  /** Whether it belongs to the block that is chosen. */
  readonly chosen: boolean;
  readonly editing: Typing | null;
  /** What the plan refused here, kept until it is mended or given up. */
  readonly refused: RefusedText | null;
  readonly folded: boolean | null;
  /** Whether the keyboard is in the grid, so that the active cell takes the focus. */
  readonly holdsFocus: RefObject<boolean>;
  readonly onFocus: (extend: boolean) => void;
  readonly onBegin: () => void;
  readonly onFold: () => void;
  /** The row is taken by its grip, to be put elsewhere; left out where nothing may be moved. */
  readonly onGrip?: (event: PointerEvent) => void;
  readonly onText: (text: string) => void;
  readonly onLeave: (text: string) => void;
  readonly onEditKey: (event: KeyboardEvent<HTMLInputElement>) => void;
}

const INDENT = 14;
/** What the sign that folds takes, kept free where there is none. */
const FOLD = 16;

type FieldProps = Pick<Props, "row" | "column" | "source" | "onText" | "onLeave" | "onEditKey"> & { editing: Typing };

/** What might be meant, below the field; arrows choose, Enter or Tab takes what is chosen. */
function Offers({
  id,
  offers,
  chosen,
  toRight,
  onTake,
}: {
  id: string;
  toRight: boolean;
  offers: readonly Completion[];
  chosen: number;
  onTake: (offer: Completion) => void;
}) {
  return (
    <ul
      id={id}
      role="listbox"
      aria-label="What might be meant"
      className={`absolute top-full z-20 min-w-48 border rule bg-base-100 text-left ${toRight ? "right-0" : "left-0"}`}
    >
      {offers.map((offer, i) => (
        <li
          key={offer.offer}
          id={`${id}-${i}`}
          role="option"
          aria-selected={i === chosen}
          className={`cursor-pointer truncate px-2 py-0.5 ${i === chosen ? "bg-accent/20" : ""}`}
          onMouseDown={(event) => {
            event.preventDefault();
            onTake(offer);
          }}
        >
          {offer.offer}
        </li>
      ))}
    </ul>
  );
}

function Field({ row, column, source, editing, onText, onLeave, onEditKey }: FieldProps) {
  const field = useRef<HTMLInputElement>(null);
  const list = useId();
  const [chosen, setChosen] = useState(-1);
  const offers = useMemo(
    () =>
      column.offers === undefined || editing.selected
        ? []
        : completionsOf(editing.text, column.offers(source.current, row), column.several === true),
    [editing, column, source, row],
  );
  // Before anything is painted, so that no key pressed meanwhile is lost.
  useLayoutEffect(() => {
    field.current?.focus();
    if (editing.selected) field.current?.select();
    // As the field opens; what is typed later lifts the selection by itself.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  // A key that waited may have gone on in the text: what comes next is typed behind it, and not over it.
  useLayoutEffect(() => {
    const { selectionStart, selectionEnd, value } = field.current!;
    if (!editing.selected && selectionStart === 0 && selectionEnd === value.length)
      field.current!.setSelectionRange(value.length, value.length);
  }, [editing.selected]);
  useEffect(() => setChosen(-1), [editing.text]);
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>): void => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const offer = offers[chosen];
    // One past either end is the text as it was typed.
    if (step !== undefined && offers.length > 0)
      setChosen(((chosen + 1 + step + offers.length + 1) % (offers.length + 1)) - 1);
    else if ((event.key === "Enter" || event.key === "Tab") && offer !== undefined) onText(offer.text);
    else return onEditKey(event);
    event.preventDefault();
    event.stopPropagation();
  };
  const open = offers.length > 0 && editing.fault === null;
  const combobox =
    column.offers === undefined
      ? {}
      : {
          role: "combobox",
          "aria-autocomplete": "list" as const,
          "aria-expanded": open,
          "aria-controls": list,
          ...(open && chosen >= 0 ? { "aria-activedescendant": `${list}-${chosen}` } : {}),
        };
  return (
    <>
      <input
        ref={field}
        {...combobox}
        className={`h-full w-full bg-base-100 px-1 outline-2 -outline-offset-2 ${editing.fault === null ? "outline-accent" : "outline-error"} ${column.numeric === true ? "text-right" : ""}`}
        aria-label={`${column.head} of ${row.name}`}
        aria-invalid={editing.fault !== null}
        value={editing.text}
        onChange={(event) => onText(event.target.value)}
        onKeyDown={onKeyDown}
        onBlur={(event) => onLeave(event.target.value)}
      />
      {open && (
        <Offers
          id={list}
          offers={offers}
          chosen={chosen}
          toRight={column.id !== "name"}
          onTake={(offer) => onText(offer.text)}
        />
      )}
      {editing.fault !== null && (
        <div
          role="alert"
          className={`absolute top-full z-20 w-64 bg-error px-2 py-1 text-left whitespace-normal text-error-content ${column.id === "name" ? "left-0" : "right-0"}`}
        >
          {editing.fault}
        </div>
      )}
    </>
  );
}

/** Computed cells are muted, news is coloured, summaries are bold, what is chosen is marked. */
function lookOf({ row, column, active, chosen }: Props, open: boolean): string {
  const tone = column.tone?.(row) ?? "plain";
  const name = column.id === "name";
  const colour = tone !== "plain" ? tone : open || name ? "" : "muted";
  const marks = [active ? "outline-2 -outline-offset-2 outline-accent" : "", chosen ? "bg-accent/15" : ""];
  return [
    column.numeric === true ? "text-right" : "",
    colour,
    name && row.kind === "summary" ? "font-semibold" : "",
    ...marks,
  ].join(" ");
}

/**
 * Whether the pointer was drawn over a cell, pressed. One that a scroll brings under a pointer at rest was not chosen
 * by anyone.
 */
const isDrawnOver = ({ buttons, movementX, movementY }: MouseEvent): boolean =>
  buttons === 1 && (movementX !== 0 || movementY !== 0);

/** A cell of the plan's table; computed ones look computed. */
export function SheetCell(props: Props) {
  const {
    row,
    column,
    minorDigits,
    width,
    index,
    active,
    chosen,
    editing,
    refused,
    folded,
    holdsFocus,
    onFocus,
    onBegin,
    onFold,
    onGrip,
  } = props;
  const cell = useRef<HTMLDivElement>(null);
  const waiting = active && editing === null;
  useLayoutEffect(() => {
    if (waiting && holdsFocus.current) cell.current?.focus({ preventScroll: true });
  }, [waiting, holdsFocus]);
  const name = column.id === "name";
  const open = column.edit !== undefined && column.closed?.(row) === null;
  return (
    <div
      ref={cell}
      role={name ? "rowheader" : "gridcell"}
      aria-colindex={index + 1}
      aria-label={name ? row.name : undefined}
      aria-readonly={!open}
      tabIndex={active ? 0 : -1}
      className={`relative h-full shrink-0 px-1.5 leading-5 whitespace-nowrap ${name ? "flex items-center" : editing === null ? "truncate" : ""} ${lookOf(props, open)}`}
      style={{ width, ...(name ? { paddingLeft: 10 + row.depth * INDENT + (folded === null ? FOLD : 0) } : {}) }}
      aria-selected={active || chosen}
      onMouseDown={editing === null ? (event) => onFocus(event.shiftKey) : undefined}
      onMouseEnter={(event) => isDrawnOver(event) && editing === null && onFocus(true)}
      onDoubleClick={onBegin}
      title={
        refused !== null
          ? `Not stored: ${refused.fault} Enter to mend it, Escape to give it up.`
          : name || column.several === true
            ? column.text(row, { minorDigits })
            : open || column.edit === undefined
              ? undefined
              : (column.closed?.(row) ?? undefined)
      }
    >
      {editing !== null ? (
        <Field {...props} editing={editing} />
      ) : refused !== null ? (
        <span data-refused="" className="block truncate bg-error px-0.5 text-error-content">
          {refused.text === "" ? "(empty)" : refused.text}
          <span className="sr-only">: {refused.fault}</span>
        </span>
      ) : !name ? (
        column.text(row, { minorDigits })
      ) : (
        <>
          {onGrip !== undefined && (
            <span
              className="muted absolute left-0 cursor-grab touch-none"
              title="Drag the row elsewhere"
              aria-hidden="true"
              onPointerDown={onGrip}
            >
              <GripVertical size={12} />
            </span>
          )}
          {folded !== null ? (
            <button
              type="button"
              tabIndex={-1}
              className="mr-1 w-3 shrink-0 cursor-pointer"
              aria-label={folded ? `Unfold ${row.name}` : `Fold ${row.name}`}
              onClick={onFold}
            >
              {folded ? <ChevronRight size={12} aria-hidden="true" /> : <ChevronDown size={12} aria-hidden="true" />}
            </button>
          ) : null}
          {row.parked && <Parked />}
          <span className={`truncate ${row.parked ? "muted" : ""}`}>{row.name}</span>
        </>
      )}
    </div>
  );
}
