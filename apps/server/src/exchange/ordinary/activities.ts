import type { ImportAnswers, ImportProblem, ImportView } from "@chronometra/contract";
import type { MatchedSheet } from "../match/matchSheets.ts";
import { without, nest, type Loose, type ReadRow } from "../match/readTables.ts";
import { lengthsIn, type Lasting } from "./lasting.ts";
import { linksIn } from "./links.ts";
import {
  branchesNamed,
  outlineNumbers,
  parentsByDepth,
  parentsByOutline,
  structureOf,
  type Structure,
} from "./outline.ts";
import { ownIn, type OwnFound } from "./own.ts";
import { Persons, workIn } from "./people.ts";
import { RowCalls } from "./rowKeys.ts";
import { against, note, type KnownRows, type Sense } from "./sense.ts";

interface Brought {
  readonly rows: readonly ReadRow[];
  readonly sheets: readonly MatchedSheet[];
  readonly answers: ImportAnswers;
  readonly known: KnownRows;
  readonly calendars: readonly Loose[];
  readonly project: Loose;
  readonly people: readonly Loose[];
  /** Steps and stages of an activity. */
  readonly credit: (nested: Loose, id: string) => Loose;
  /** Before ids that are made: keeps new rows of a file that brings changes from taking the id of one it leaves out. */
  readonly prefix: string;
  readonly minorDigits: number;
}

/** What an ordinary sheet of activities comes to. */
export interface Made {
  readonly activities: Loose[];
  readonly links: Loose[];
  readonly assignments: Loose[];
  readonly costs: Loose[];
  readonly persons: Persons;
  readonly own: OwnFound;
  /** Rows of the file behind activities, by id, with what they give as a start. */
  readonly given: Lasting["given"];
  /** The row of the file that each activity comes from, by its id. */
  readonly rowById: ReadonlyMap<string, ReadRow>;
  readonly rowKeysQuestion: ImportView["rowKeysQuestion"];
  readonly problems: ImportProblem[];
  readonly notices: ImportProblem[];
}

/** What people write in a sheet that the format says in other tables, or in other words. */
const WRITTEN = [
  "outline",
  "branch",
  "durationHours",
  "durationDays",
  "start",
  "finish",
  "predecessors",
  "people",
  "role",
  "plannedHours",
  "cost",
  "state",
  "note",
  "level",
  "parent",
  "owner",
  "id",
];

/** An id for each row: its own, else its outline number, else its place in the list. */
function idsOf(rows: readonly ReadRow[], outlines: readonly (string | undefined)[], prefix: string): string[] {
  const taken = new Set(rows.map(({ fields }) => fields["id"]).filter((id) => id !== undefined));
  const free = (wanted: string): string => {
    let id = wanted;
    for (let more = 2; taken.has(id); more++) id = `${wanted}-${more}`;
    taken.add(id);
    return id;
  };
  return rows.map(
    ({ fields }, i) => (fields["id"] as string | undefined) ?? free(`${prefix}${outlines[i] ?? String(i + 1)}`),
  );
}

/** What each row lies below, by position, and rows for branches that are named beside their activities only. */
function structured(rows: readonly ReadRow[], outlines: readonly (string | undefined)[], calls: RowCalls) {
  const structure = structureOf(rows);
  const none = rows.map(() => -1);
  switch (structure) {
    case "parent":
      return {
        structure,
        branches: [],
        parents: rows.map(({ fields }) => {
          const text = fields["parent"] as string | undefined;
          if (text === undefined) return -1;
          const found = (["ids", "outline", "rows"] as const)
            .filter((way) => calls.has(way) && (way !== "rows" || !calls.has("ids")))
            .map((way) => calls.find(text, way))
            .find((row) => row !== null);
          return typeof found === "number" ? found : text;
        }),
      };
    case "outline":
      return { structure, branches: [], parents: parentsByOutline(outlines) };
    case "level":
      return {
        structure,
        branches: [],
        parents: parentsByDepth(rows.map(({ fields }) => (fields["level"] as number) ?? 0)),
      };
    case "branch": {
      const { names, of } = branchesNamed(rows);
      return { structure, branches: names, parents: of.map((branch) => (branch === null ? -1 : { branch })) };
    }
    case "indent":
      return { structure, branches: [], parents: parentsByDepth(rows.map(({ indent }) => indent)) };
    case "grouping":
      return { structure, branches: [], parents: parentsByDepth(rows.map(({ level }) => level)) };
    case "none":
      return { structure, branches: [], parents: none };
  }
}

const STRUCTURE_WORDS = {
  parent: null,
  outline: "What lies below what was read from the outline numbers.",
  level: "What lies below what was read from how deep each row says it lies.",
  branch: "A branch was made for each that the rows name.",
  indent: "What lies below what was taken from the rows' indentation.",
  grouping: "What lies below what was taken from the rows' grouping.",
  none: null,
} as const;

const branchId = (branch: number): string => `branch-${branch + 1}`;

/** Planned costs of rows, of one category, in minor units. */
function costsIn(sense: Sense, digits: number): Loose[] {
  return sense.rows.flatMap(({ fields }, i) => {
    const amount = fields["cost"] as number | undefined;
    if (amount === undefined || amount === 0) return [];
    if (sense.isBranch(i)) {
      against(
        sense,
        i,
        "cost",
        "costs stand at activities, and a branch sums them up; write it at one of them, or leave it out",
      );
      return [];
    }
    const minor = amount * 10 ** digits;
    const plannedMinor = Math.round(minor);
    if (Math.abs(minor - plannedMinor) > 1e-6)
      against(sense, i, "cost", `${amount} is finer than the currency, which has ${digits} decimals`);
    return [{ id: `cost-${sense.ids[i]!}`.slice(0, 64), activity: sense.ids[i]!, category: "Costs", plannedMinor }];
  });
}

type Parent = ReturnType<typeof structured>["parents"][number];

const parentId = (parent: Parent, ids: readonly string[]): string | undefined => {
  if (typeof parent === "string") return parent;
  if (typeof parent === "object") return branchId(parent.branch);
  return parent < 0 ? undefined : ids[parent]!;
};

/** What of a row becomes an activity: a branch, or one that lasts as it says. */
function activityOf(
  { fields }: ReadRow,
  id: string,
  isBranch: boolean,
  lasting: Loose,
  beside: { readonly parent: string | undefined; readonly owner: string | undefined },
  credit: Brought["credit"],
): Loose {
  const nested = nest(without(fields, WRITTEN));
  const kept = isBranch ? without(nested, ["durationMinutes", "percent"]) : nested;
  return defined({
    id,
    name: id,
    ...kept,
    ...defined({ ...beside }),
    ...(isBranch ? { kind: "summary" } : lasting),
    ...credit(nested, id),
  });
}

/** Makes activities, links, people at work and costs of what an ordinary sheet says. */
export function makeActivities(brought: Brought): Made {
  const { rows, sheets, answers, known, calendars, project, prefix } = brought;
  const outlines = outlineNumbers(rows.map(({ fields }) => fields["outline"] as string | undefined));
  const calls = new RowCalls(rows, outlines);
  const ids = idsOf(rows, outlines, prefix);
  const { structure, parents, branches } = structured(rows, outlines, calls);
  const above = new Set<Parent>(parents.filter((parent) => typeof parent === "number" && parent >= 0));
  const isBranch = (i: number): boolean =>
    rows[i]!.fields["kind"] === "summary" || (above.has(i) && rows[i]!.fields["kind"] === undefined);
  const sense: Sense = { rows, ids, sheets, answers, known, isBranch, problems: [], notices: [] };
  tellStructure(sense, structure);
  const money = { currency: String(project["currency"]), minorDigits: brought.minorDigits };
  const persons = new Persons({ answers, known }, brought.people, money);
  const lasting = lengthsIn(sense, calendars, project);
  const links = linksIn(sense, calls, lasting.minutes);
  const { assignments, owners } = workIn(sense, persons, lasting.minutes);
  const made = rows.map((row, i) => {
    const beside = { parent: parentId(parents[i]!, ids), owner: owners.get(i) };
    return activityOf(row, ids[i]!, isBranch(i), lasting.fields[i]!, beside, brought.credit);
  });
  const heads = branches.map((name, branch): Loose => ({ id: branchId(branch), name, kind: "summary" }));
  return {
    activities: inBranches(heads, made, parents),
    links: links.links,
    assignments,
    costs: costsIn(sense, brought.minorDigits),
    persons,
    own: ownIn(sense),
    given: lasting.given,
    // Of two that have one id, the first is the one that is told of.
    rowById: new Map(rows.map((row, i) => [ids[i]!, row] as const).toReversed()),
    rowKeysQuestion: links.question,
    problems: sense.problems,
    notices: sense.notices,
  };
}

/** Says how it was told what rows are called, and what lies below what. */
function tellStructure(sense: Sense, structure: Structure): void {
  if (sense.rows.some(({ fields }) => fields["id"] === undefined))
    note(
      sense,
      "id",
      structure === "outline" ? "Outline numbers became the ids of rows." : "Rows without an id were numbered.",
    );
  const words = STRUCTURE_WORDS[structure];
  if (words !== null) note(sense, "parent", words);
}

const defined = (row: Loose): Loose =>
  Object.fromEntries(Object.entries(row).filter(([, value]) => value !== undefined));

/** Each branch that was made before the first row that it has, and all of its rows below it. */
function inBranches(heads: readonly Loose[], rows: readonly Loose[], parents: readonly unknown[]): Loose[] {
  if (heads.length === 0) return [...rows];
  const within = heads.map((): Loose[] => []);
  const order: (Loose | number)[] = [];
  rows.forEach((row, i) => {
    const parent = parents[i] as { branch: number } | number;
    if (typeof parent === "number") return void order.push(row);
    if (within[parent.branch]!.length === 0) order.push(parent.branch);
    within[parent.branch]!.push(row);
  });
  return order.flatMap((each) => (typeof each === "number" ? [heads[each]!, ...within[each]!] : [each]));
}
