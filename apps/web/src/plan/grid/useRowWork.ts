import type { Arrangement, Problem } from "@chronometra/core";
import { keepBranches, keptBranches, BRANCHES_TYPE } from "./keptBranches.ts";
import Papa from "papaparse";
import { useRef, type ClipboardEvent, type KeyboardEvent } from "react";
import { toast } from "sonner";
import { copyBlock, fillTexts, idsAfter, writeBlock, type Block, type Written } from "./blocks.ts";
import type { PlanSession } from "../engine/planSession.ts";
import type { SheetRow } from "../engine/sheet.ts";
import type { Reading, SheetColumn } from "./sheetColumn.ts";

interface Options {
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
  readonly reading: Reading;
  readonly session: PlanSession;
  readonly mayEdit: boolean;
  readonly folded: ReadonlySet<string>;
  readonly onFold: (id: string, open: boolean) => void;
}

const FAULTS_SHOWN = 4;
const NEW_NAME = "New activity";

function tell(lines: readonly string[]): void {
  toast.error(`${lines.slice(0, FAULTS_SHOWN).join("\n")}${lines.length > FAULTS_SHOWN ? `\nand ${lines.length - FAULTS_SHOWN} more` : ""}\nNothing was changed.`, { style: { whiteSpace: "pre-line" } });
}

const inWords = (problems: readonly Problem[]): string[] => problems.map(({ row, message }) => `${row}: ${message}`);

/** What a planner does with rows and blocks of cells: insert, arrange, remove, copy, paste, fill, clear. */
export function useRowWork({ rows, columns, reading, session, mayEdit, folded, onFold }: Options) {
  /** The row to begin typing in once it is there. */
  const awaited = useRef<string | null>(null);
  /** Keys pressed while it is on its way; whoever types fast does not wait for a row. */
  const typedAhead = useRef<string[]>([]);

  const arrange = async (arrangement: Arrangement): Promise<boolean> => {
    const problems = await session.arrange(arrangement);
    if (problems !== null) tell(inWords(problems));
    return problems === null;
  };

  const insert = (at: number): void => {
    const row = rows[at];
    const id = idsAfter(rows)(0);
    const inside = row !== undefined && row.children > 0 && !folded.has(row.id);
    awaited.current = id;
    void arrange({ verb: "insert", id, name: NEW_NAME, after: row?.id ?? null, inside }).then((done) => {
      if (!done) awaited.current = null;
    });
  };

  /** Makes changes and what the plan itself has to read, all or nothing each; tells what stands against them. */
  const take = async ({ changes, asked, faults }: Pick<Written, "changes" | "asked" | "faults">): Promise<boolean> => {
    const refuse = (lines: readonly string[]): false => {
      tell(lines);
      return false;
    };
    if (faults.length > 0) return refuse(faults);
    const problems = changes.length === 0 ? null : await session.change(changes);
    if (problems !== null) return refuse(inWords(problems));
    const read = await Promise.all(asked.map(({ activity, text, what }) => (what === "links" ? session.readLinks(activity, text) : session.readWork(activity, text))));
    const wrong = read.flatMap((typed) => ("fault" in typed ? [typed.fault] : []));
    if (wrong.length > 0) return refuse(wrong);
    const more = read.flatMap((typed) => ("changes" in typed ? typed.changes : []));
    const refused = more.length === 0 ? null : await session.change(more);
    return refused === null || refuse(inWords(refused));
  };

  const write = async (texts: readonly (readonly string[])[], { top, left }: Pick<Block, "top" | "left">): Promise<void> => void (await take(writeBlock(texts, { rows, columns, top, left, reading, newId: idsAfter(rows) })));

  /** What was typed for the row that is awaited, and whether it was entered; what follows stays for the next. */
  const takeTyped = (): { text: string; entered: boolean } => {
    const keys = typedAhead.current;
    const end = keys.indexOf("Enter");
    const text = keys.slice(0, end < 0 ? keys.length : end).join("");
    typedAhead.current = end < 0 ? [] : keys.slice(end + 1);
    return { text, entered: end >= 0 };
  };

  const idsIn = ({ top, bottom }: Block): string[] => rows.slice(top, bottom + 1).map(({ id }) => id);

  /** As `idsIn`, without those that lie below another of them; of parked rows below a parked branch, the branch. */
  const topIdsIn = (block: Block): string[] => {
    const byId = new Map(rows.map((row) => [row.id, row]));
    const chosen = new Set(idsIn(block));
    const below = (id: string): boolean => {
      for (let at = byId.get(id)?.parent ?? null; at !== null; at = byId.get(at)?.parent ?? null) if (chosen.has(at)) return true;
      return false;
    };
    return [...chosen].filter((id) => !below(id));
  };

  const clear = ({ top, bottom, left, right }: Block): void => void write(Array.from({ length: bottom - top + 1 }, () => Array.from({ length: right - left + 1 }, () => "")), { top, left });

  const onCommand = (event: KeyboardEvent, block: Block): boolean => {
    const { key, altKey, ctrlKey, metaKey, shiftKey } = event;
    const row = rows[block.top];
    if (awaited.current !== null && !ctrlKey && !metaKey && !altKey && (key.length === 1 || key === "Enter")) {
      typedAhead.current.push(key);
      return true;
    }
    if (altKey && !shiftKey && (key === "ArrowLeft" || key === "ArrowRight")) {
      if (row !== undefined && row.children > 0) onFold(row.id, key === "ArrowRight");
      return true;
    }
    if (!mayEdit) return false;
    const verbs: Record<string, "indent" | "outdent" | "up" | "down"> = { ArrowRight: "indent", ArrowLeft: "outdent", ArrowUp: "up", ArrowDown: "down" };
    if (altKey && shiftKey && verbs[key] !== undefined) void arrange({ verb: verbs[key], ids: idsIn(block) });
    else if (key === "Insert") insert(block.bottom);
    else if (key === "Delete" && (ctrlKey || metaKey)) void arrange({ verb: "remove", ids: idsIn(block) });
    else if (key === "Delete") clear(block);
    else if (key.toLowerCase() === "d" && (ctrlKey || metaKey)) void write(fillTexts(rows, columns, block, reading), block);
    else return false;
    return true;
  };

  const onCopy = (event: ClipboardEvent, block: Block, whole: boolean): Promise<void> | null => {
    if ((event.target as HTMLElement).matches("input")) return null;
    event.clipboardData.setData("text/plain", Papa.unparse(copyBlock(rows, columns, block, reading), { delimiter: "\t", newline: "\n" }));
    event.preventDefault();
    if (!whole) return null;
    // The clipboard must be written at once, and the plan answers a moment later: it holds a mark that what is kept carries too.
    const mark = crypto.randomUUID();
    event.clipboardData.setData(BRANCHES_TYPE, mark);
    return session.copy(idsIn(block)).then((branches) => keepBranches(mark, event.type === "cut", branches));
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
    const problems = await session.paste(kept.branches, rows[block.bottom]?.id ?? null, kept.cut);
    if (problems !== null) tell(inWords(problems));
    else toast(`${kept.branches.activities.length} rows pasted.`);
  };

  const onPaste = (event: ClipboardEvent, block: Block): void => {
    if (!mayEdit || (event.target as HTMLElement).matches("input")) return;
    event.preventDefault();
    const mark = event.clipboardData.getData(BRANCHES_TYPE);
    if (mark !== "") return void pasteBranches(mark, block);
    const { data } = Papa.parse<string[]>(event.clipboardData.getData("text/plain").replace(/\r?\n$/, ""), { delimiter: "\t" });
    const one = data.length === 1 && data[0]!.length === 1 ? data[0]![0]! : null;
    // One value goes into every cell that is chosen.
    const texts = one === null ? data : Array.from({ length: block.bottom - block.top + 1 }, () => Array.from({ length: block.right - block.left + 1 }, () => one));
    void write(texts, block);
  };

  return { awaited, takeTyped, arrange, take, insert, idsIn, topIdsIn, onCommand, onCopy, onCut, onPaste };
}
