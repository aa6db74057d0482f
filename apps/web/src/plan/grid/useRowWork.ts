import type { Arrangement, Change, Problem } from "@chronometra/core";
import Papa from "papaparse";
import { useState, type ClipboardEvent } from "react";
import { toast } from "sonner";
import { countWords } from "../../shared/words.ts";
import { copyBlock, fillTexts, idsAfter, writeBlock, type Block, type Written } from "./blocks.ts";
import type { Removal } from "../engine/engine.ts";
import type { PlanSession } from "../engine/planSession.ts";
import type { SheetRow } from "../engine/sheet.ts";
import { keepBranches, keptBranches, BRANCHES_TYPE } from "./keptBranches.ts";
import type { Reading, SheetColumn } from "../engine/sheetColumn.ts";
import type { useGrid } from "./useGrid.ts";
import type { Key } from "./useHeldKeys.ts";

interface Options {
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
  readonly reading: Reading;
  readonly session: PlanSession;
  readonly mayEdit: boolean;
  readonly folded: ReadonlySet<string>;
  readonly onFold: (id: string, open: boolean) => void;
  /** The grid these rows stand in; there once it is made. */
  readonly grid: {
    current: Pick<
      ReturnType<typeof useGrid>,
      "hold" | "whenIdle" | "begin" | "removing" | "forgetDelete" | "endTyping"
    > | null;
  };
}

const SLICE = 250;

/** As `writeBlock`, in slices between which the page can draw and take keys. */
async function writeInSlices(
  texts: readonly (readonly string[])[],
  target: Parameters<typeof writeBlock>[1],
): Promise<Written> {
  const whole: Written & { added: number } = { changes: [], asked: [], faults: [], added: 0 };
  for (let at = 0; at < texts.length; at += SLICE) {
    if (at > 0) await new Promise((resolve) => setTimeout(resolve, 0));
    const before = whole.added;
    const slice = writeBlock(texts.slice(at, at + SLICE), {
      ...target,
      top: target.top + at,
      first: at,
      newId: (n) => target.newId(before + n),
    });
    whole.changes.push(...slice.changes);
    whole.asked.push(...slice.asked);
    whole.faults.push(...slice.faults);
    whole.added += slice.added;
  }
  return whole;
}

const FAULTS_SHOWN = 4;
const NEW_NAME = "New activity";

function tell(lines: readonly string[]): void {
  toast.error(
    `${lines.slice(0, FAULTS_SHOWN).join("\n")}${lines.length > FAULTS_SHOWN ? `\nand ${lines.length - FAULTS_SHOWN} more` : ""}\nNothing was changed.`,
    { style: { whiteSpace: "pre-line" } },
  );
}

const inWords = (problems: readonly Problem[]): string[] => problems.map(({ row, message }) => `${row}: ${message}`);

/** With Alt: where the chosen rows go. Some keyboards write other signs with it on the same keys. */
const VERBS: Record<string, "indent" | "outdent" | "up" | "down"> = {
  ".": "indent",
  "≥": "indent",
  ",": "outdent",
  "≤": "outdent",
  ArrowUp: "up",
  ArrowDown: "down",
};

/** What a planner does with rows and blocks of cells: insert, arrange, remove, copy, paste, fill, clear. */
export function useRowWork({ rows, columns, reading, session, mayEdit, folded, onFold, grid }: Options) {
  /** A removal that would cut chains of links, to be decided. */
  const [asked, setAsked] = useState<Removal | null>(null);
  const hold = <T>(work: () => Promise<T>, then?: (result: T) => void): Promise<T> =>
    grid.current === null ? work() : grid.current.hold(work, then);

  const arrange = (arrangement: Arrangement): Promise<boolean> =>
    hold(async () => {
      const problems = await session.arrange(arrangement);
      if (problems !== null) tell(inWords(problems));
      return problems === null;
    });

  /**
   * A new row after one, or within it where it stands open; its name is typed at once.
   * @param goesAgain whether it was nobody's wish: it goes again where nothing is typed
   */
  const insert = (after: SheetRow | undefined, goesAgain = false): void => {
    const id = idsAfter(rows)(0);
    const inside = after !== undefined && after.children > 0 && !folded.has(after.id);
    void hold(
      async () => {
        const problems = await session.arrange({
          verb: "insert",
          id,
          name: NEW_NAME,
          after: after?.id ?? null,
          inside,
        });
        if (problems !== null) tell(inWords(problems));
        return problems === null;
      },
      (done) => done && grid.current!.begin(id, 0, undefined, goesAgain),
    );
  };

  /** Nothing was typed into a row that was made to be typed into: it goes again, and so do keys that were meant for it. */
  const leaveFresh = (id: string): void => {
    grid.current!.removing(id);
    void hold(
      () => session.undo(),
      () => grid.current!.forgetDelete(),
    );
  };

  /** Makes what was typed or pasted, all of it or nothing; tells what stands against it. */
  const take = async ({
    changes,
    asked: texts,
    faults,
  }: Pick<Written, "changes" | "asked" | "faults">): Promise<boolean> => {
    const wrong = faults.length > 0 ? faults : await session.changeBlock({ changes, asked: texts });
    if (wrong !== null) tell(wrong);
    return wrong === null;
  };

  const write = (
    texts: readonly (readonly string[])[],
    target: { rows: readonly SheetRow[]; top: number; left: number },
  ): Promise<boolean> =>
    hold(async () => take(await writeInSlices(texts, { columns, reading, newId: idsAfter(rows), ...target })));

  const idsIn = ({ rows: own }: Block): string[] => own.map(({ id }) => id);

  /** As `idsIn`, without those that lie below another of them; of parked rows below a parked branch, the branch. */
  const topIdsIn = (block: Block): string[] => {
    const byId = new Map(rows.map((row) => [row.id, row]));
    const chosen = new Set(idsIn(block));
    const below = (id: string): boolean => {
      for (let at = byId.get(id)?.parent ?? null; at !== null; at = byId.get(at)?.parent ?? null)
        if (chosen.has(at)) return true;
      return false;
    };
    return [...chosen].filter((id) => !below(id));
  };

  const clear = (block: Block): void =>
    void write(
      block.rows.map(() => Array.from({ length: block.right - block.left + 1 }, () => "")),
      { rows: block.rows, top: 0, left: block.left },
    );

  /** Removes rows; where chains of links lead through them it is asked whether their logic is carried across. */
  const remove = (block: Block): void => {
    const ids = idsIn(block);
    if (ids.length === 0) return;
    grid.current!.removing(ids[0]!);
    void hold(async () => {
      const removal = await session.removal(ids);
      if (removal.chains.length > 0) setAsked(removal);
      else await removeBy(removal, removal.only);
    });
  };

  const removeBy = async ({ links }: Removal, changes: readonly Change[]): Promise<void> => {
    setAsked(null);
    const problems = await session.change(changes);
    if (problems !== null) return tell(inWords(problems));
    const removed = changes.filter((change) => change.type === "removeRow" && change.table === "activities").length;
    if (links > 0)
      toast(
        `${countWords(removed, "row", "rows")} removed, and ${countWords(links, "link", "links")} to others with ${removed === 1 ? "it" : "them"}.`,
        { action: { label: "Undo", onClick: () => void session.undo() } },
      );
  };

  const onCommand = (pressed: Key, block: Block): boolean => {
    const { key, altKey, ctrlKey, metaKey, shiftKey } = pressed;
    const [first] = block.rows;
    if (altKey && !shiftKey && (key === "ArrowLeft" || key === "ArrowRight")) {
      if (first !== undefined && first.children > 0) onFold(first.id, key === "ArrowRight");
      return true;
    }
    if (!mayEdit) return false;
    if (altKey && !shiftKey && VERBS[key] !== undefined) void arrange({ verb: VERBS[key], ids: idsIn(block) });
    else if (key === "Enter" && (ctrlKey || metaKey)) insert(block.rows.at(-1));
    else if (key === "Delete" && (ctrlKey || metaKey)) remove(block);
    else if (key === "Delete") clear(block);
    else if (key.toLowerCase() === "d" && (ctrlKey || metaKey))
      void write(fillTexts(columns, block, reading), { rows: block.rows, top: 0, left: block.left });
    else return false;
    return true;
  };

  const onCopy = (event: ClipboardEvent, block: Block, whole: boolean): Promise<void> | null => {
    if ((event.target as HTMLElement).matches("input")) return null;
    event.clipboardData.setData(
      "text/plain",
      Papa.unparse(copyBlock(columns, block, reading), { delimiter: "\t", newline: "\n" }),
    );
    event.preventDefault();
    if (!whole) return null;
    // The clipboard must be written at once, and the plan answers a moment later: it holds a mark that what is kept carries too.
    const mark = crypto.randomUUID();
    event.clipboardData.setData(BRANCHES_TYPE, mark);
    const cut = event.type === "cut";
    return session.copy(idsIn(block)).then((branches) => {
      keepBranches(mark, cut, branches);
      if (!cut) toast(`${countWords(branches.activities.length, "row", "rows")} copied.`);
    });
  };

  const onCut = (event: ClipboardEvent, block: Block, whole: boolean): void => {
    if (!mayEdit) return;
    const copied = onCopy(event, block, whole);
    if (whole) void copied?.then(() => arrange({ verb: "remove", ids: idsIn(block) }));
    else if (!(event.target as HTMLElement).matches("input")) clear(block);
  };

  const pasteBranches = async (mark: string, block: Block): Promise<void> => {
    const kept = keptBranches(mark);
    if (kept === null) return tell(["The rows that were copied are not at hand any more; copy them again."]);
    const problems = await hold(() => session.paste(kept.branches, block.rows.at(-1)?.id ?? null, kept.cut));
    if (problems !== null) tell(inWords(problems));
    else toast(`${kept.branches.activities.length} rows pasted.`);
  };

  /** Pastes from the first chosen cell on; one value goes into every cell that is chosen. */
  const onPaste = (event: ClipboardEvent, chosen: () => Block): void => {
    const text = event.clipboardData.getData("text/plain");
    // Into the field of a cell goes what fits into one; rows and columns are pasted from the cell on.
    if (!mayEdit || ((event.target as HTMLElement).matches("input") && !/[\t\n]/.test(text.trim()))) return;
    event.preventDefault();
    grid.current!.endTyping();
    const mark = event.clipboardData.getData(BRANCHES_TYPE);
    void grid.current!.whenIdle(() => {
      const block = chosen();
      if (mark !== "") return void pasteBranches(mark, block);
      const { data } = Papa.parse<string[]>(text.replace(/\r?\n$/, ""), { delimiter: "\t" });
      const one = data.length === 1 && data[0]!.length === 1 ? data[0]![0]! : null;
      const width = block.right - block.left + 1;
      if (one !== null && (block.rows.length > 1 || width > 1))
        return void write(
          block.rows.map(() => Array.from({ length: width }, () => one)),
          { rows: block.rows, top: 0, left: block.left },
        );
      const [first] = block.rows;
      if (first !== undefined) void write(data, { rows, top: rows.indexOf(first), left: block.left });
    });
  };

  return {
    asked,
    decide: (changes: readonly Change[] | null) =>
      changes === null || asked === null ? setAsked(null) : void hold(() => removeBy(asked, changes)),
    arrange,
    take,
    insert,
    leaveFresh,
    remove,
    idsIn,
    topIdsIn,
    onCommand,
    onCopy,
    onCut,
    onPaste,
  };
}
