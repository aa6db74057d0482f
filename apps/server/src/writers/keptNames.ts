import { succession } from "@chronometra/core";
import type { Cell, Writer } from "../plan/held/writer.ts";
import { nameWords } from "./nameWords.ts";

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
  const now = [...after.values()];
  if (before === undefined) return { fresh: now, gone: [] };
  const was = [...before.values()];
  const { from, changed, gone } = succession(was, now);
  const fresh = changed.filter((at) => was[from[at]!]?.name !== now[at]!.name);
  const renamed = fresh.filter((at) => from[at]! >= 0);
  return {
    fresh: fresh.map((at) => now[at]!),
    gone: [...gone.map((at) => was[at]!.id), ...renamed.map((at) => now[at]!.id)],
  };
}

const wordRows = (kind: Kind, { id, name }: Named): Cell[][] => nameWords(name).map((word) => [kind, id, word]);

/** The words of a plan's names, by which they are found. */
export const keptNames: Writer = {
  tables: ["find_word"],
  rows: ({ before, after: { plan } }) => {
    const was = before?.plan;
    const kinds = (
      [
        [NAMED.activity, was?.activities, plan.activities],
        [NAMED.risk, was?.risks, plan.risks],
        [NAMED.person, was?.people, plan.people],
      ] as const
    ).map(([kind, names, now]) => ({ kind, ...renamed(names, now) }));
    return [
      {
        table: "find_word",
        key: ["kind", "thing_id", "word"],
        columns: [],
        gone: { by: ["kind", "thing_id"], keys: kinds.flatMap(({ kind, gone }) => gone.map((id) => [kind, id])) },
        rows: kinds.flatMap(({ kind, fresh }) => fresh.flatMap((each) => wordRows(kind, each))),
      },
    ];
  },
};
