import type { Roadmap, RoadLine } from "@chronometra/contract";
import { inTreeOrder, OUTSIDE } from "../../project/programmeTree.ts";

/** A line of the roadmap: a group with how deep it lies, or a project below one. */
export type RoadRow =
  | {
      readonly is: "group";
      readonly id: string;
      readonly name: string;
      readonly depth: number;
      readonly lines: readonly RoadLine[];
    }
  | { readonly is: "project"; readonly depth: number; readonly line: RoadLine };

export const ROAD_GROUPS = ["programme", "manager", "stage", "none"] as const;
export type RoadGroup = (typeof ROAD_GROUPS)[number];

/** Rows of one level under the names that they have in common. */
function byName(lines: readonly RoadLine[], nameOf: (line: RoadLine) => string): RoadRow[] {
  const groups = new Map<string, RoadLine[]>();
  for (const line of lines) groups.set(nameOf(line), [...(groups.get(nameOf(line)) ?? []), line]);
  return [...groups]
    .sort(([a], [b]) => a.localeCompare(b))
    .flatMap(([name, own]): RoadRow[] => [
      { is: "group", id: name, name, depth: 0, lines: own },
      ...own.map((line): RoadRow => ({ is: "project", depth: 1, line })),
    ]);
}

/** The tree of groups with the projects of each; a group without any is left out. */
function byProgramme({ programmes }: Roadmap, lines: readonly RoadLine[]): RoadRow[] {
  const own = new Map<string | null, RoadLine[]>();
  const known = new Set(programmes.map(({ id }) => id));
  for (const line of lines) {
    const at = line.programme !== null && known.has(line.programme) ? line.programme : null;
    own.set(at, [...(own.get(at) ?? []), line]);
  }
  const tree = inTreeOrder(programmes);
  const rows = tree.flatMap(({ programme: { id, name }, depth }, i): RoadRow[] => {
    const end = tree.findIndex((each, j) => j > i && each.depth <= depth);
    const all = tree.slice(i, end === -1 ? undefined : end).flatMap(({ programme }) => own.get(programme.id) ?? []);
    if (all.length === 0) return [];
    return [
      { is: "group", id, name, depth, lines: all },
      ...(own.get(id) ?? []).map((line): RoadRow => ({ is: "project", depth: depth + 1, line })),
    ];
  });
  const outside = own.get(null) ?? [];
  return outside.length === 0
    ? rows
    : [
        ...rows,
        { is: "group", id: OUTSIDE, name: OUTSIDE, depth: 0, lines: outside },
        ...outside.map((line): RoadRow => ({ is: "project", depth: 1, line })),
      ];
}

/** The lines of the roadmap in the order in which they are drawn, grouped; those that a text leaves over. */
export function roadRows(roadmap: Roadmap, by: RoadGroup, filter: string): RoadRow[] {
  const wanted = filter.trim().toLowerCase();
  const lines = roadmap.projects.filter(({ code, name, manager }) =>
    `${code} ${name} ${manager}`.toLowerCase().includes(wanted),
  );
  if (by === "none") return lines.map((line): RoadRow => ({ is: "project", depth: 0, line }));
  if (by === "manager") return byName(lines, ({ manager }) => manager);
  if (by === "stage") return byName(lines, ({ stage }) => stage ?? "no stage");
  return byProgramme(roadmap, lines);
}

/** Rows without what lies below groups that are folded. */
export function unfolded(rows: readonly RoadRow[], folded: ReadonlySet<string>): RoadRow[] {
  const shown: RoadRow[] = [];
  let hiddenBelow: number | null = null;
  for (const row of rows) {
    if (hiddenBelow !== null && row.depth > hiddenBelow) continue;
    hiddenBelow = row.is === "group" && folded.has(row.id) ? row.depth : null;
    shown.push(row);
  }
  return shown;
}
