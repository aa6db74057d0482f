import type { SheetRow } from "../../engine/sheet.ts";
import { fillTexts, idsAfter, type Block, type Written } from "./blocks.ts";
import { hold, type Doing } from "./doing.ts";
import { tell } from "./tell.ts";
import { writeInSlices } from "./writeInSlices.ts";

/** Makes what was typed or pasted, all of it or nothing; tells what stands against it. */
export async function take(
  { session }: Pick<Doing, "session">,
  { changes, asked, faults }: Pick<Written, "changes" | "asked" | "faults">,
): Promise<boolean> {
  const wrong = faults.length > 0 ? faults : await session.changeBlock({ changes, asked });
  if (wrong !== null) tell(wrong);
  return wrong === null;
}

interface Target {
  readonly rows: readonly SheetRow[];
  readonly top: number;
  readonly left: number;
}

/** Writes texts into cells from one on. */
export const write = (doing: Doing, texts: readonly (readonly string[])[], target: Target): Promise<boolean> =>
  hold(doing, async () => {
    const { columns, reading, rows } = doing;
    return take(doing, await writeInSlices(texts, { columns, reading, newId: idsAfter(rows), ...target }));
  });

/** Writes one text into every cell of a block. */
export const writeAll = (doing: Doing, { rows, left, right }: Block, text: string): Promise<boolean> =>
  write(
    doing,
    rows.map(() => Array.from({ length: right - left + 1 }, () => text)),
    { rows, top: 0, left },
  );

export const clear = (doing: Doing, block: Block): Promise<boolean> => writeAll(doing, block, "");

/** Writes the first row of a block into those below it. */
export const fill = (doing: Doing, block: Block): Promise<boolean> =>
  write(doing, fillTexts(doing.columns, block, doing.reading), { rows: block.rows, top: 0, left: block.left });
