import type { Gone } from "../../engine/session/sessionState.ts";

/** A cell, by what it belongs to and never by where it stands. */
export interface CellOf {
  readonly id: string;
  readonly column: string;
}

/** What is typed into a cell while it is edited. */
export interface Typing extends CellOf {
  readonly text: string;
  /** Why what was typed cannot be; it stays as it was typed. */
  readonly fault: string | null;
  /** Whether the text was there before, to be typed over. */
  readonly selected: boolean;
  /** Whether the row was made for this typing, and goes again where nothing is typed. */
  readonly fresh: boolean;
}

/** A text that the plan refused; it belongs to its cell until it is mended or given up. */
export interface RefusedText extends CellOf {
  readonly text: string;
  readonly fault: string;
}

/** A text that was being typed into a row when someone else took that out. */
export interface LostText {
  readonly text: string;
  readonly row: Gone;
}

/** Where the keyboard stands and what is chosen, by the ids of rows. */
export interface GridState {
  /** `null` where the row it stood on was taken out by someone else: until another is gone to, keys do nothing. */
  readonly at: string | null;
  readonly column: number;
  /** Where that row stands, or stood when it was last there. */
  readonly row: number;
  /** The row and column that a range reaches from. */
  readonly from: { readonly id: string | null; readonly column: number };
  /** The rows that are chosen; what others put between them is not. */
  readonly chosen: readonly string[];
  /** Whether whole rows are chosen, all columns of them. */
  readonly whole: boolean;
  readonly typing: Typing | null;
  readonly refused: readonly RefusedText[];
  /** Whose row went from under the keyboard. */
  readonly gone: Gone | null;
  readonly lost: LostText | null;
}

export const atFirst = (ids: readonly string[]): GridState => ({
  at: ids[0] ?? null,
  column: 0,
  row: 0,
  from: { id: ids[0] ?? null, column: 0 },
  chosen: ids.slice(0, 1),
  whole: false,
  typing: null,
  refused: [],
  gone: null,
  lost: null,
});

export type GridAct =
  /** Goes to a row; with `extend` the range reaches there. */
  | {
      readonly do: "go";
      readonly ids: readonly string[];
      readonly row: number;
      readonly column: number;
      readonly extend?: boolean;
    }
  | { readonly do: "choose"; readonly ids: readonly string[]; readonly whole: boolean }
  | {
      readonly do: "type";
      readonly id: string;
      readonly column: string;
      readonly columnAt: number;
      readonly row: number;
      readonly text: string;
      readonly selected: boolean;
      readonly fault?: string | null;
      readonly fresh?: boolean;
    }
  | { readonly do: "text"; readonly text: string }
  | { readonly do: "fault"; readonly fault: string }
  /** Ends typing, whatever became of the text. */
  | { readonly do: "end" }
  | { readonly do: "refuse"; readonly entry: RefusedText }
  | { readonly do: "mend"; readonly cell: CellOf }
  | { readonly do: "dismissLost" }
  /** The rows are others now. */
  | {
      readonly do: "rows";
      readonly ids: readonly string[];
      readonly gone: ReadonlyMap<string, Gone>;
      /** The row that stands for one that is folded away or left out; `null` where it is not in the plan. */ readonly standsFor: (
        id: string,
      ) => string | null;
    };

const clamp = (value: number, last: number): number => Math.max(0, Math.min(last, value));

export const isCell = (a: CellOf, b: CellOf): boolean => a.id === b.id && a.column === b.column;

function went(state: GridState, { ids, row, column, extend = false }: Extract<GridAct, { do: "go" }>): GridState {
  if (ids.length === 0) return state;
  const at = clamp(row, ids.length - 1);
  const id = ids[at]!;
  const anchor = extend && state.from.id !== null ? ids.indexOf(state.from.id) : -1;
  if (anchor < 0)
    return { ...state, at: id, row: at, column, from: { id, column }, chosen: [id], whole: false, gone: null };
  return {
    ...state,
    at: id,
    row: at,
    column,
    chosen: ids.slice(Math.min(anchor, at), Math.max(anchor, at) + 1),
    gone: null,
  };
}

/**
 * The rows are others: the keyboard stays on its row wherever that is now, and with nobody's where it was taken out.
 */
function among(state: GridState, { ids, gone, standsFor }: Extract<GridAct, { do: "rows" }>): GridState {
  const there = new Set(ids);
  const { typing } = state;
  const lostTo =
    typing === null || there.has(typing.id) || standsFor(typing.id) !== null ? null : (gone.get(typing.id) ?? null);
  const refused = state.refused.filter(({ id }) => !gone.has(id) || standsFor(id) !== null);
  const next: GridState = {
    ...state,
    refused,
    // What was refused in a row that is gone is as good as lost while it was typed.
    lost:
      lostTo !== null
        ? { text: typing!.text, row: lostTo }
        : refused.length < state.refused.length
          ? {
              text: state.refused.find(({ id }) => gone.has(id))!.text,
              row: gone.get(state.refused.find(({ id }) => gone.has(id))!.id)!,
            }
          : state.lost,
    typing: typing !== null && !there.has(typing.id) ? null : typing,
    chosen: state.chosen.filter((id) => there.has(id)),
  };
  const { at } = state;
  if (at !== null && there.has(at)) return { ...next, row: ids.indexOf(at) };
  const stands = at === null ? null : standsFor(at);
  if (stands !== null && there.has(stands))
    return went(next, { do: "go", ids, row: ids.indexOf(stands), column: state.column });
  const by = at === null ? null : (gone.get(at) ?? null);
  if (by !== null) return { ...next, at: null, gone: by };
  if (at === null && ids.length > 0 && state.gone !== null) return next;
  return ids.length === 0 ? { ...next, at: null } : went(next, { do: "go", ids, row: state.row, column: state.column });
}

/** What a state becomes by something that is done, or that happens to it. */
export function acted(state: GridState, act: GridAct): GridState {
  switch (act.do) {
    case "go":
      return went(state, act);
    case "choose":
      return { ...state, chosen: act.ids, whole: act.whole };
    case "type":
      return {
        ...state,
        at: act.id,
        row: act.row,
        column: act.columnAt,
        from: { id: act.id, column: act.columnAt },
        chosen: [act.id],
        whole: false,
        gone: null,
        typing: {
          id: act.id,
          column: act.column,
          text: act.text,
          fault: act.fault ?? null,
          selected: act.selected,
          fresh: act.fresh === true,
        },
      };
    case "text":
      return state.typing === null
        ? state
        : { ...state, typing: { ...state.typing, text: act.text, fault: null, selected: false } };
    case "fault":
      return state.typing === null
        ? state
        : { ...state, typing: { ...state.typing, fault: act.fault, selected: false } };
    case "end":
      return { ...state, typing: null };
    case "refuse":
      return { ...state, refused: [...state.refused.filter((entry) => !isCell(entry, act.entry)), act.entry] };
    case "mend":
      return { ...state, refused: state.refused.filter((entry) => !isCell(entry, act.cell)) };
    case "dismissLost":
      return { ...state, lost: null };
    case "rows":
      return among(state, act);
    default:
      return act satisfies never;
  }
}

/** The last cell in a direction before what is filled turns empty, or the first that is filled again. */
export function edgeOf(filled: (step: number) => boolean, last: number): number {
  if (last <= 0) return 0;
  const run = filled(0) && filled(1);
  let step = 1;
  if (run) while (step < last && filled(step + 1)) step++;
  else while (step < last && !filled(step)) step++;
  return step;
}
