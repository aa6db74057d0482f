import Papa from "papaparse";
import type { ClipboardEvent } from "react";
import { toast } from "../../../shared/messages/toast.ts";
import { countWords } from "../../../shared/words/words.ts";
import { copyBlock, type Block } from "./blocks.ts";
import { clear, write, writeAll } from "./blockWork.ts";
import { hold, idsIn, type Doing } from "./doing.ts";
import { BRANCHES_TYPE, keepBranches, keptBranches } from "./keptBranches.ts";
import { arrange } from "./rowWork.ts";
import { inWords, tell } from "./tell.ts";

const isInField = ({ target }: ClipboardEvent): boolean => (target as HTMLElement).matches("input");

/**
 * Copies the texts of cells; whole rows with all that they have.
 * @returns when whole rows are at hand; `null` where only texts were copied
 */
export function copy(
  { columns, reading, session }: Doing,
  event: ClipboardEvent,
  block: Block,
  whole: boolean,
): Promise<void> | null {
  if (isInField(event)) return null;
  event.clipboardData.setData(
    "text/plain",
    Papa.unparse(copyBlock(columns, block, reading), { delimiter: "\t", newline: "\n" }),
  );
  event.preventDefault();
  if (!whole) return null;
  // The clipboard must be written at once, and the plan answers a moment later: it holds a mark that what is kept
  // carries too.
  const mark = crypto.randomUUID();
  event.clipboardData.setData(BRANCHES_TYPE, mark);
  const isCut = event.type === "cut";
  return session.copy(idsIn(block)).then((branches) => {
    keepBranches(mark, isCut, branches);
    if (!isCut) toast(`${countWords(branches.activities.length, "row", "rows")} copied.`);
  });
}

export function cut(doing: Doing, event: ClipboardEvent, block: Block, whole: boolean): void {
  if (!doing.mayEdit) return;
  const copied = copy(doing, event, block, whole);
  if (whole) void copied?.then(() => arrange(doing, { verb: "remove", ids: idsIn(block) }));
  else if (!isInField(event)) void clear(doing, block);
}

async function pasteBranches(doing: Doing, mark: string, block: Block): Promise<void> {
  const kept = keptBranches(mark);
  if (kept === null) return tell(["The rows that were copied are not at hand any more; copy them again."]);
  const after = block.rows.at(-1)?.id ?? null;
  const problems = await hold(doing, () => doing.session.paste(kept.branches, after, kept.cut));
  if (problems !== null) tell(inWords(problems));
  else toast(`${kept.branches.activities.length} rows pasted.`);
}

/** Pastes texts from the first chosen cell on; one value goes into every cell that is chosen. */
function pasteTexts(doing: Doing, text: string, block: Block): void {
  const { data } = Papa.parse<string[]>(text.replace(/\r?\n$/, ""), { delimiter: "\t" });
  const one = data.length === 1 && data[0]!.length === 1 ? data[0]![0]! : null;
  if (one !== null && (block.rows.length > 1 || block.right > block.left)) return void writeAll(doing, block, one);
  const [first] = block.rows;
  const { rows } = doing;
  if (first !== undefined) void write(doing, data, { rows, top: rows.indexOf(first), left: block.left });
}

/** Pastes what the clipboard holds, once nothing is under way: rows with all that they have, or texts. */
export function paste(doing: Doing, event: ClipboardEvent, chosen: () => Block): void {
  const text = event.clipboardData.getData("text/plain");
  // Into the field of a cell goes what fits into one; rows and columns are pasted from the cell on.
  if (!doing.mayEdit || (isInField(event) && !/[\t\n]/.test(text.trim()))) return;
  event.preventDefault();
  doing.grid.current!.endTyping();
  const mark = event.clipboardData.getData(BRANCHES_TYPE);
  void doing.grid.current!.whenIdle(() => {
    if (mark !== "") void pasteBranches(doing, mark, chosen());
    else pasteTexts(doing, text, chosen());
  });
}
