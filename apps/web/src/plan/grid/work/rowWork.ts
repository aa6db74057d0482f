import type { Arrangement } from "@chronometra/core";
import type { SheetRow } from "../../engine/sheet.ts";
import { idsAfter, type Block } from "./blocks.ts";
import { hold, idsIn, type Doing } from "./doing.ts";
import { inWords, tell } from "./tell.ts";

const NEW_NAME = "New activity";

/** Whether something was done; what stood against it has been told. */
async function arranged({ session }: Doing, arrangement: Arrangement): Promise<boolean> {
  const problems = await session.arrange(arrangement);
  if (problems !== null) tell(inWords(problems));
  return problems === null;
}

export const arrange = (doing: Doing, arrangement: Arrangement): Promise<boolean> =>
  hold(doing, () => arranged(doing, arrangement));

/**
 * A new row after one, or within it where it stands open; its name is typed at once.
 * @param goesAgain whether it was nobody's wish: it goes again where nothing is typed
 */
export function insert(
  doing: Doing,
  folded: ReadonlySet<string>,
  after: SheetRow | undefined,
  goesAgain = false,
): void {
  const id = idsAfter(doing.rows)(0);
  const inside = after !== undefined && after.children > 0 && !folded.has(after.id);
  void hold(
    doing,
    () => arranged(doing, { verb: "insert", id, name: NEW_NAME, after: after?.id ?? null, inside }),
    (done) => done && doing.grid.current!.begin(id, 0, undefined, goesAgain),
  );
}

/** Nothing was typed into a row that was made to be typed into: it goes again, and so do keys that were meant for it. */
export function leaveFresh(doing: Doing, id: string): void {
  doing.grid.current!.removing(id);
  void hold(
    doing,
    () => doing.session.undo(),
    () => doing.grid.current!.forgetDelete(),
  );
}

/** As `idsIn`, without those that lie below another of them; of parked rows below a parked branch, the branch. */
export function topIdsIn(rows: readonly SheetRow[], block: Block): string[] {
  const byId = new Map(rows.map((row) => [row.id, row]));
  const chosen = new Set(idsIn(block));
  const below = (id: string): boolean => {
    for (let at = byId.get(id)?.parent ?? null; at !== null; at = byId.get(at)?.parent ?? null)
      if (chosen.has(at)) return true;
    return false;
  };
  return [...chosen].filter((id) => !below(id));
}
