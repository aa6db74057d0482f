import { ArrowDown, ArrowUp, Indent, Outdent, Plus, Trash2 } from "lucide-react";
import type { Active } from "./PlanSheet.tsx";

const MOVES = [
  { verb: "outdent", words: "Out a level (Alt+Shift+Left)", Icon: Outdent },
  { verb: "indent", words: "Below the row before (Alt+Shift+Right)", Icon: Indent },
  { verb: "up", words: "Up (Alt+Shift+Up)", Icon: ArrowUp },
  { verb: "down", words: "Down (Alt+Shift+Down)", Icon: ArrowDown },
  { verb: "remove", words: "Take out (Ctrl+Delete)", Icon: Trash2 },
] as const;

/** What can be done with the rows that are chosen. */
export function RowTools({ active: { work, block } }: { active: Active }) {
  return (
    <>
      <button type="button" className="btn btn-ghost btn-sm" onClick={() => work.insert(block.bottom)} title="A new row (Insert)"><Plus size={14} aria-hidden="true" /> Row</button>
      {MOVES.map(({ verb, words, Icon }) => (
        <button key={verb} type="button" className="btn btn-ghost btn-sm btn-square" aria-label={words} title={words} onClick={() => void work.arrange({ verb, ids: work.idsIn(block) })}><Icon size={14} aria-hidden="true" /></button>
      ))}
    </>
  );
}
