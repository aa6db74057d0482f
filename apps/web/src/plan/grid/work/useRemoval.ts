import type { Change } from "@chronometra/core";
import { useState } from "react";
import { toast } from "../../../shared/messages/toast.ts";
import { countWords } from "../../../shared/words/words.ts";
import type { Removal } from "../../engine/engine.ts";
import type { Block } from "./blocks.ts";
import { hold, idsIn, type Doing } from "./doing.ts";
import { inWords, tell } from "./tell.ts";

/** Makes a removal's changes, and says what went with the rows. */
async function removeBy({ session }: Doing, { links }: Removal, changes: readonly Change[]): Promise<void> {
  const problems = await session.change(changes);
  if (problems !== null) return tell(inWords(problems));
  const removed = changes.filter((change) => change.type === "removeRow" && change.table === "activities").length;
  if (links > 0)
    toast(
      `${countWords(removed, "row", "rows")} removed, and ${countWords(links, "link", "links")} to others with ${removed === 1 ? "it" : "them"}.`,
      { action: { label: "Undo", onClick: () => void session.undo() } },
    );
}

/** Removes rows; where chains of links lead through them it is asked whether their logic is carried across. */
export function useRemoval(doing: Doing) {
  /** A removal that would cut chains of links, to be decided. */
  const [asked, setAsked] = useState<Removal | null>(null);
  const remove = (block: Block): void => {
    const ids = idsIn(block);
    if (ids.length === 0) return;
    doing.grid.current!.removing(ids[0]!);
    void hold(doing, async () => {
      const removal = await doing.session.removal(ids);
      if (removal.chains.length > 0) setAsked(removal);
      else await removeBy(doing, removal, removal.only);
    });
  };
  const decide = (changes: readonly Change[] | null): void => {
    setAsked(null);
    if (changes !== null && asked !== null) void hold(doing, () => removeBy(doing, asked, changes));
  };
  return { asked, remove, decide };
}
