import type { Arrangement } from "@chronometra/core";
import type { ClipboardEvent } from "react";
import type { SheetRow } from "../../engine/sheet.ts";
import type { Key } from "../cells/useHeldKeys.ts";
import { clear, fill, take } from "./blockWork.ts";
import type { Block, Written } from "./blocks.ts";
import { copy, cut, paste } from "./clipboard.ts";
import { idsIn, type Doing } from "./doing.ts";
import { arrange, insert, leaveFresh, topIdsIn } from "./rowWork.ts";
import { useRemoval } from "./useRemoval.ts";

interface Options extends Doing {
  readonly folded: ReadonlySet<string>;
  readonly onFold: (id: string, open: boolean) => void;
}

/** With Alt: where the chosen rows go. Some keyboards write other signs with it on the same keys. */
const VERBS: Record<string, "indent" | "outdent" | "up" | "down"> = {
  ".": "indent",
  "≥": "indent",
  ",": "outdent",
  "≤": "outdent",
  ArrowUp: "up",
  ArrowDown: "down",
};

/** What a key asks to be done with a block: what it is called, or `null` where it asks nothing. */
function commandOf({ key, altKey, ctrlKey, metaKey, shiftKey }: Key) {
  const withCtrl = ctrlKey || metaKey;
  if (altKey && !shiftKey && (key === "ArrowLeft" || key === "ArrowRight")) return "fold";
  if (altKey && !shiftKey && VERBS[key] !== undefined) return "arrange";
  if (key === "Enter" && withCtrl) return "insert";
  if (key === "Delete") return withCtrl ? "remove" : "clear";
  return key.toLowerCase() === "d" && withCtrl ? "fill" : null;
}

/** What a planner does with rows and blocks of cells: insert, arrange, remove, copy, paste, fill, clear. */
export function useRowWork({ folded, onFold, ...doing }: Options) {
  const removal = useRemoval(doing);

  const onCommand = (pressed: Key, block: Block): boolean => {
    const command = commandOf(pressed);
    if (command === "fold") {
      const [first] = block.rows;
      if (first !== undefined && first.children > 0) onFold(first.id, pressed.key === "ArrowRight");
      return true;
    }
    if (command === null || !doing.mayEdit) return false;
    if (command === "arrange") void arrange(doing, { verb: VERBS[pressed.key]!, ids: idsIn(block) });
    else if (command === "insert") insert(doing, folded, block.rows.at(-1));
    else if (command === "remove") removal.remove(block);
    else if (command === "clear") void clear(doing, block);
    else void fill(doing, block);
    return true;
  };

  return {
    ...removal,
    arrange: (arrangement: Arrangement) => arrange(doing, arrangement),
    take: (written: Pick<Written, "changes" | "asked" | "faults">) => take(doing, written),
    insert: (after: SheetRow | undefined, goesAgain?: boolean) => insert(doing, folded, after, goesAgain),
    leaveFresh: (id: string) => leaveFresh(doing, id),
    idsIn,
    topIdsIn: (block: Block) => topIdsIn(doing.rows, block),
    onCommand,
    onCopy: (event: ClipboardEvent, block: Block, whole: boolean) => copy(doing, event, block, whole),
    onCut: (event: ClipboardEvent, block: Block, whole: boolean) => cut(doing, event, block, whole),
    onPaste: (event: ClipboardEvent, chosen: () => Block) => paste(doing, event, chosen),
  };
}
