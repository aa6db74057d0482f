import type { WatchAbout, WatchQuestion } from "@chronometra/contract";
import { commonMoney, type CommonMoney, type Exchange, type Money } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { fieldOf, inWords, SOURCES, type Asker, type Loose, type Sql } from "./fieldSql.ts";
import { NOTHING, shownAs } from "./shownAs.ts";

/**
 * A statement over the rows that hold: what is selected, what is joined for it, and what comes after the conditions.
 */
export type Run = (select: string, joins: readonly Sql[], rest?: Sql) => Promise<Loose[]>;

/** A question being answered. */
export interface Asking {
  readonly database: DataSource;
  readonly question: WatchQuestion;
  readonly asker: Asker;
  readonly run: Run;
  /** Fields shown that are summed. */
  readonly summed: readonly string[];
  readonly exchange: Exchange | null;
  /** The data date of the sums. */
  readonly on: string;
}

/** Sums of some rows, project by project, since amounts are rounded once for each. */
export interface Summed {
  count: number;
  readonly projects: Map<string, { readonly money: Money; readonly sums: Record<string, number> }>;
}

const nothing = (): Summed => ({ count: 0, projects: new Map() });

function addRow(into: Summed, row: Loose, summed: readonly string[], counts: boolean): void {
  if (counts) into.count += Number(row["count_"]);
  const id = String(row["project_"]);
  const known = into.projects.get(id);
  const money = { currency: String(row["currency_"]), minorDigits: Math.round(Math.log10(Number(row["scale_"]))) };
  const sums = known?.sums ?? {};
  for (const name of summed) sums[name] = (sums[name] ?? 0) + Number(row[name] ?? 0);
  if (known === undefined) into.projects.set(id, { money, sums });
}

/**
 * Branches are the sums of what is below them: in sums of activities they are left out, but for those of {@link
 * loneBranches}.
 */
export const sumOf = (about: WatchAbout, name: string, branches: "left out" | "alone"): string =>
  about === "activities" && branches === "left out"
    ? `sum(if(r.kind = 'summary', 0, ${SOURCES[about].expressions[name]!}))`
    : `sum(${SOURCES[about].expressions[name]!})`;

/** Groups being added up, each with its keys as the rows have them. */
export interface Group {
  readonly name: string | null;
  readonly of: Summed;
  readonly keys: unknown[];
}

const byName = (a: { name: string | null }, b: { name: string | null }): number =>
  a.name === null ? 1 : b.name === null ? -1 : a.name < b.name ? -1 : a.name > b.name ? 1 : 0;

/** Names in the order in which they are told, those without one last. */
export const inNameOrder = (names: Iterable<string | null>): (string | null)[] =>
  [...names]
    .map((name) => ({ name }))
    .sort(byName)
    .map(({ name }) => name);

interface Part {
  readonly within: Sql;
  readonly branches: "left out" | "alone";
}

/**
 * The parts that sums are made of: all rows without branches, and branches of which nothing below is among the rows.
 */
const partsOf = (alone: Sql | null): Part[] => [
  { within: NOTHING, branches: "left out" },
  ...(alone === null ? [] : [{ within: alone, branches: "alone" as const }]),
];

const sumsSql = ({ question: { about }, summed }: Asking, branches: Part["branches"]): string =>
  [
    "r.project_id as project_",
    "min(r.currency) as currency_",
    "min(r.scale) as scale_",
    "count(*) as count_",
    ...summed.map((name) => `${sumOf(about, name, branches)} as \`${name}\``),
  ].join(", ");

/** Sums of all rows. */
export async function sumsOfAll(asking: Asking, alone: Sql | null): Promise<Summed> {
  const all = nothing();
  for (const { within, branches } of partsOf(alone)) {
    const rows = await asking.run(sumsSql(asking, branches), [], {
      sql: `${within.sql} group by r.project_id`,
      values: within.values,
    });
    for (const row of rows) addRow(all, row, asking.summed, branches === "left out");
  }
  return all;
}

/** Groups with their sums, by name; of a field of which a row has several they overlap. */
export async function groupsOf(asking: Asking, alone: Sql | null): Promise<Group[]> {
  const { question, asker, run, summed } = asking;
  const { about } = question;
  const group = question.group!;
  const by = shownAs(about, group, "g");
  const groups = new Map<string | null, Group>();
  for (const { within, branches } of partsOf(alone)) {
    const rows = await run(`${by.sql} as name_, ${sumsSql(asking, branches)}`, [by.join], {
      sql: `${within.sql} group by ${by.sql}, r.project_id`,
      values: within.values,
    });
    for (const row of rows) {
      const name = inWords(about, group, row["name_"], asker);
      let known = groups.get(name);
      if (known === undefined) groups.set(name, (known = { name, of: nothing(), keys: [] }));
      if (!known.keys.includes(row["name_"])) known.keys.push(row["name_"]);
      addRow(known.of, row, summed, branches === "left out");
    }
  }
  return [...groups.values()].sort(byName);
}

/** Sums of groups that do not overlap, put together. */
export function together(groups: readonly Group[]): Summed {
  const all = nothing();
  for (const { of } of groups) {
    all.count += of.count;
    for (const [id, { money, sums }] of of.projects) {
      const known = all.projects.get(id)?.sums ?? {};
      for (const [name, value] of Object.entries(sums)) known[name] = (known[name] ?? 0) + value;
      all.projects.set(id, { money, sums: known });
    }
  }
  return all;
}

/** What amounts of all the rows are summed in. */
export const moneyOf = ({ exchange, on }: Pick<Asking, "exchange" | "on">, { projects }: Summed): CommonMoney =>
  commonMoney(
    [...projects.values()].map(({ money }) => money),
    exchange,
    on,
  );

/** Sums as they are given: amounts in the common money, or none where there is none. */
export function presentSums(
  { question: { about }, summed }: Pick<Asking, "question" | "summed">,
  { projects }: Summed,
  common: CommonMoney,
): Record<string, number | null> {
  const given: Record<string, number | null> = {};
  for (const name of summed) {
    const isAmount = fieldOf(about, name).type === "amount";
    given[name] =
      isAmount && common.money === null && projects.size > 0
        ? null
        : [...projects.values()].reduce(
            (sum, { money, sums }) =>
              sum + (isAmount && common.money !== null ? common.convert(sums[name] ?? 0, money) : (sums[name] ?? 0)),
            0,
          );
  }
  return given;
}

const MOST_ALONE = 5000;

/**
 * Branches among the rows of which nothing that lies below is: they stand for what is below them in sums
 * (calculations.md section 9), and are told as a condition. Where every row is asked for there are none.
 */
export async function loneBranches({
  database,
  question: { about, where, pivot },
  run,
  summed,
}: Asking): Promise<Sql | null> {
  if (about !== "activities" || where.length === 0 || (summed.length === 0 && (pivot?.sum ?? null) === null))
    return null;
  const branches = (await run("r.project_id as project_, r.activity_id as id_", [], {
    sql: " and r.kind = 'summary'",
    values: [],
  })) as { project_: string; id_: string }[];
  if (branches.length === 0) return null;
  const parents = (await run("distinct r.project_id as project_, r.parent_id as parent_", [], {
    sql: " and r.parent_id is not null",
    values: [],
  })) as { project_: string; parent_: string }[];
  const tree = (await database.query(
    "select project_id as project, activity_id as id, parent_id as parent from activity_row where kind = 'summary' and project_id in (?)",
    [[...new Set(branches.map(({ project_ }) => project_))]],
  )) as { project: string; id: string; parent: string | null }[];
  const above = new Map(tree.map(({ project, id, parent }) => [`${project} ${id}`, parent]));
  const covered = new Set<string>();
  for (const { project_, parent_ } of parents) {
    for (
      let at: string | null | undefined = parent_;
      at != null && !covered.has(`${project_} ${at}`);
      at = above.get(`${project_} ${at}`)
    )
      covered.add(`${project_} ${at}`);
  }
  const alone = branches.filter(({ project_, id_ }) => !covered.has(`${project_} ${id_}`)).slice(0, MOST_ALONE);
  if (alone.length === 0) return null;
  return {
    sql: ` and (r.project_id, r.activity_id) in (${alone.map(() => "(?, ?)").join(", ")})`,
    values: alone.flatMap(({ project_, id_ }) => [project_, id_]),
  };
}
