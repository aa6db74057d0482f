import { nameWords } from "./nameWords.ts";
import type { Kept, Writer } from "./writer.ts";
import { insertRows, parts, type Cell } from "./writeRows.ts";

/** What can be found by its name, as `find_word` has it. */
export const NAMED = { activity: "a", risk: "r", person: "p" } as const;
type Kind = (typeof NAMED)[keyof typeof NAMED];

interface Named {
  readonly id: string;
  readonly name: string;
}
type Names = ReadonlyMap<string, Named>;

/** What bears another name than before, and what is gone. */
function renamed(before: Names | undefined, after: Names): { fresh: Named[]; gone: string[] } {
  if (before === after) return { fresh: [], gone: [] };
  const fresh = [...after.values()].filter(({ id, name }) => before?.get(id)?.name !== name);
  const gone = before === undefined ? [] : [...before.keys()].filter((id) => !after.has(id));
  return { fresh, gone: [...gone, ...fresh.filter(({ id }) => before?.has(id)).map(({ id }) => id)] };
}

const wordRows = (projectId: string, kind: Kind, { id, name }: Named): Cell[][] =>
  nameWords(name).map((word) => [word, projectId, kind, id]);

async function write({ manager, projectId, before, after }: Kept): Promise<void> {
  const rows: Cell[][] = [];
  for (const [kind, was, now] of [
    [NAMED.activity, before?.activities, after.activities],
    [NAMED.risk, before?.risks, after.risks],
    [NAMED.person, before?.people, after.people],
  ] as const) {
    const { fresh, gone } = renamed(was, now);
    for (const part of parts(gone))
      await manager.query("delete from find_word where project_id = ? and kind = ? and thing_id in (?)", [
        projectId,
        kind,
        part,
      ]);
    rows.push(...fresh.flatMap((each) => wordRows(projectId, kind, each)));
  }
  await insertRows(manager, "find_word", ["word", "project_id", "kind", "thing_id"], rows);
}

/** The words of a plan's names, by which they are found. */
export const keptNames: Writer = { tables: ["find_word"], write };
