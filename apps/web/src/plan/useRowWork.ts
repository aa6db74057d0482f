import type { Arrangement, Problem } from "@chronometra/core";
import Papa from "papaparse";
import { useRef, type ClipboardEvent, type KeyboardEvent } from "react";
import { toast } from "sonner";
import { copyBlock, fillTexts, idsAfter, writeBlock, type Block } from "./blocks.ts";
import type { PlanSession } from "./planSession.ts";
import type { SheetRow } from "./sheet.ts";
import type { SheetColumn } from "./sheetColumns.ts";
import { todayHere } from "./today.ts";

interface Options {
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
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
export function useRowWork({ rows, columns, session, mayEdit, folded, onFold }: Options) {
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

  const write = async (texts: readonly (readonly string[])[], { top, left }: Pick<Block, "top" | "left">): Promise<void> => {
    const written = writeBlock(texts, { rows, columns, top, left, today: todayHere(), newId: idsAfter(rows) });
    if (written.faults.length > 0) return tell(written.faults);
    const problems = written.changes.length === 0 ? null : await session.change(written.changes);
    if (problems !== null) return tell(inWords(problems));
    const links = await Promise.all(written.links.map(({ activity, text }) => session.readLinks(activity, text)));
    const faults = links.flatMap((typed) => ("fault" in typed ? [typed.fault] : []));
    if (faults.length > 0) return tell(faults);
    const changes = links.flatMap((typed) => ("changes" in typed ? typed.changes : []));
    const refused = changes.length === 0 ? null : await session.change(changes);
    if (refused !== null) tell(inWords(refused));
  };

  /** What was typed for the row that is awaited, and whether it was entered; what follows stays for the next. */
  const takeTyped = (): { text: string; entered: boolean } => {
    const keys = typedAhead.current;
    const end = keys.indexOf("Enter");
    const text = keys.slice(0, end < 0 ? keys.length : end).join("");
    typedAhead.current = end < 0 ? [] : keys.slice(end + 1);
    return { text, entered: end >= 0 };
  };

  const idsIn = ({ top, bottom }: Block): string[] => rows.slice(top, bottom + 1).map(({ id }) => id);

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
    else if (key === "Delete") void write(Array.from({ length: block.bottom - block.top + 1 }, () => Array.from({ length: block.right - block.left + 1 }, () => "")), block);
    else if (key.toLowerCase() === "d" && (ctrlKey || metaKey)) void write(fillTexts(rows, columns, block), block);
    else return false;
    return true;
  };

  const onCopy = (event: ClipboardEvent, block: Block): void => {
    if ((event.target as HTMLElement).matches("input")) return;
    event.clipboardData.setData("text/plain", Papa.unparse(copyBlock(rows, columns, block), { delimiter: "\t", newline: "\n" }));
    event.preventDefault();
  };

  const onPaste = (event: ClipboardEvent, block: Block): void => {
    if (!mayEdit || (event.target as HTMLElement).matches("input")) return;
    event.preventDefault();
    const { data } = Papa.parse<string[]>(event.clipboardData.getData("text/plain").replace(/\r?\n$/, ""), { delimiter: "\t" });
    const one = data.length === 1 && data[0]!.length === 1 ? data[0]![0]! : null;
    // One value goes into every cell that is chosen.
    const texts = one === null ? data : Array.from({ length: block.bottom - block.top + 1 }, () => Array.from({ length: block.right - block.left + 1 }, () => one));
    void write(texts, block);
  };

  return { awaited, takeTyped, arrange, insert, idsIn, onCommand, onCopy, onPaste };
}
