import { OWN_PREFIX, type Me, type WatchAnswer, type WatchQuestion, type WatchRow } from "@chronometra/contract";
import type { Team } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { exchangeNow } from "../../portfolio/exchange.ts";
import { Failure } from "../../shared/failure.ts";
import { fieldOf, fromOf, inWords, SOURCES, whereSql, type Asker, type Loose, type Sql } from "./fieldSql.ts";
import { pivotOf } from "./pivot.ts";
import { isPlace, placesOf } from "./places.ts";
import { presentRows } from "./presentRows.ts";
import { NOTHING, shownAs, sortedBy } from "./shownAs.ts";
import {
  groupsOf,
  loneBranches,
  moneyOf,
  presentSums,
  sumsOfAll,
  together,
  type Asking,
  type Group,
  type Run,
} from "./sums.ts";
import { seesAll } from "../../project/reach.ts";

const SHOWN_AT_MOST = 500;
const GROUPS_AT_MOST = 2000;
/** Rows that may be fetched, chosen and acted on at once. */
const CHOSEN_AT_MOST = 5000;

/** Who asks, with the people of the teams that they are in. */
export async function askerOf(database: DataSource, me: Me): Promise<Asker> {
  const places = await placesOf(database, me);
  if (me.person === null) return { me, places, team: [] };
  const rows = (await database.query("select doc from plan_row where table_name = 'teams'")) as { doc: string }[];
  const teams = rows.map(({ doc }) => JSON.parse(doc) as Team).filter(({ members }) => members.includes(me.person!));
  return {
    me,
    places,
    team: [...new Set(teams.flatMap(({ members }) => members))].filter((person) => person !== me.person),
  };
}

/** A question of the projects that the asker sees. */
const inReach = (where: Sql, { me, places }: Asker): Sql =>
  seesAll(me)
    ? where
    : { sql: `(${where.sql}) and r.project_id in (?)`, values: [...where.values, [...places.keys(), ""]] };

/** Takes a question in hand. Throws a Failure for a field or condition that does not exist. */
async function begin(database: DataSource, me: Me, question: WatchQuestion): Promise<Asking> {
  const { about, group, pivot } = question;
  const shown = [
    ...question.columns,
    ...question.sort.map(({ field }) => field),
    ...(group === null ? [] : [group]),
    ...(pivot === null
      ? []
      : [pivot.rows, ...(pivot.columns === null ? [] : [pivot.columns]), ...(pivot.sum === null ? [] : [pivot.sum])]),
  ];
  for (const name of shown) fieldOf(about, name);
  const [asker, money] = await Promise.all([askerOf(database, me), exchangeNow(database, me)]);
  const from = fromOf(about, [...shown, ...question.where.flat().map(({ field }) => field)], asker);
  const where = inReach(whereSql(about, question.where, asker), asker);
  const run: Run = (select, joins, rest = NOTHING) =>
    database.query(
      `select ${select} from ${from}${joins.map(({ sql }) => sql).join("")} where ${where.sql}${rest.sql}`,
      [...joins.flatMap(({ values }) => values), ...where.values, ...rest.values],
    );
  return {
    database,
    question,
    asker,
    run,
    summed: question.columns.filter((name) => fieldOf(about, name).summed === true),
    ...money,
  };
}

/** Answers a question over all projects. Throws a Failure for a field or condition that does not exist. */
export async function ask(
  database: DataSource,
  me: Me,
  question: WatchQuestion,
  shown = SHOWN_AT_MOST,
): Promise<WatchAnswer> {
  const asking = await begin(database, me, question);
  const { about, group, pivot } = question;
  const alone = await loneBranches(asking);
  const overlapping = group !== null && fieldOf(about, group).several === true;
  const [added, { groups, rows }] = await Promise.all([
    group === null || overlapping ? sumsOfAll(asking, alone) : null,
    groupsAndRows(asking, alone, shown),
  ]);
  const whole = added ?? together(groups);
  const common = moneyOf(asking, whole);
  return {
    count: whole.count,
    shown: rows.length,
    money: {
      currency: common.money?.currency ?? null,
      minorDigits: common.money?.minorDigits ?? 2,
      on: asking.on,
      used: [...common.used],
      missing: [...common.missing],
    },
    sums: presentSums(asking, whole, common),
    groups: groups
      .slice(0, GROUPS_AT_MOST)
      .map(({ name, of }) => ({ name, count: of.count, sums: presentSums(asking, of, common) })),
    groupCount: groups.length,
    rows: await presentRows(database, asking.asker, question, rows),
    pivot: pivot === null ? null : await pivotOf(asking, alone, common),
  };
}

/** The rows of one group, or all there are. Throws a Failure where they are more than can be handled at once. */
export async function rowsOfAnswer(
  database: DataSource,
  me: Me,
  question: WatchQuestion,
  group: string | null | undefined,
): Promise<WatchRow[]> {
  const asking = await begin(database, me, { ...question, pivot: null });
  const within = group === undefined || question.group === null ? NOTHING : await groupSql(asking, group);
  const rows = await rowsOf(asking, CHOSEN_AT_MOST + 1, within);
  if (rows.length > CHOSEN_AT_MOST)
    throw new Failure("invalid", `These are more than ${CHOSEN_AT_MOST} rows; narrow the question by a condition.`);
  return presentRows(database, asking.asker, question, rows);
}

/** Which rows stand in the group of that name, as the condition that its keys make. */
async function groupSql(asking: Asking, name: string | null): Promise<Sql> {
  const { about } = asking.question;
  const by = shownAs(about, asking.question.group!, "g");
  const found = await asking.run(`distinct ${by.sql} as name_`, [by.join]);
  const keys = found
    .map((row) => row["name_"])
    .filter((key) => inWords(about, asking.question.group!, key, asking.asker) === name);
  const sql = isPlace(asking.question.group!) ? "r.project_id" : sortedBy(about, asking.question.group!, "g").sql;
  const named = keys.filter((key) => key !== null);
  const parts = [
    ...(named.length > 0 ? [`${sql} in (?)`] : []),
    ...(named.length < keys.length ? [`${sql} is null`] : []),
  ];
  return parts.length === 0
    ? { sql: " and false", values: [] }
    : { sql: ` and (${parts.join(" or ")})`, values: named.length > 0 ? [named] : [] };
}

/** Groups and the rows to show; of places only the rows of the first groups are looked for. */
async function groupsAndRows(
  asking: Asking,
  alone: Sql | null,
  shown: number,
): Promise<{ groups: Group[]; rows: Loose[] }> {
  const { group } = asking.question;
  if (group === null) return { groups: [], rows: await rowsOf(asking, shown, NOTHING) };
  const groups = await groupsOf(asking, alone);
  const projects = firstProjects(group, groups, shown);
  if (projects?.length === 0) return { groups, rows: [] };
  return {
    groups,
    rows: await rowsOf(
      asking,
      shown,
      projects === null ? NOTHING : { sql: " and r.project_id in (?)", values: [projects] },
    ),
  };
}

/**
 * The projects in which the rows of the first groups lie, where rows are grouped by place: all others need not be
 * sorted.
 */
function firstProjects(group: string, groups: readonly Group[], shown: number): string[] | null {
  if (!isPlace(group)) return null;
  const ids: string[] = [];
  let count = 0;
  for (const { of, keys } of groups) {
    ids.push(...keys.map(String));
    count += of.count;
    if (count >= shown) break;
  }
  return ids;
}

/** What a field is sorted by: amounts by what they are worth, as far as that is known. */
function sortingOf(
  { question: { about }, exchange, on }: Asking,
  name: string,
  alias: string,
): { sql: string; join: Sql } {
  const by = sortedBy(about, name, alias);
  if (fieldOf(about, name).type !== "amount") return by;
  const rates = new Map<string, number>();
  for (const { currency, from, rate } of exchange?.rates ?? [])
    if (from <= on && /^[A-Z]{3}$/.test(currency)) rates.set(currency, rate);
  const worth =
    rates.size === 0
      ? "1"
      : `case r.currency ${[...rates].map(([currency, rate]) => `when '${currency}' then ${Number(rate)}`).join(" ")} else 1 end`;
  return { ...by, sql: `${by.sql} / r.scale * ${worth}` };
}

async function rowsOf(asking: Asking, shown: number, within: Sql): Promise<Loose[]> {
  const { question, run } = asking;
  const { about, group, sort } = question;
  const plain = question.columns.filter(
    (name) =>
      !name.startsWith(OWN_PREFIX) &&
      !isPlace(name) &&
      !(about === "activities" && (name === "people" || name === "role")),
  );
  const columns = plain.map((name, i) => ({ name, ...shownAs(about, name, `c${i}`) }));
  const grouping = group === null ? null : sortedBy(about, group, "g");
  const groupValue = group === null ? "null" : isPlace(group) ? "r.project_id" : grouping!.sql;
  const sorting = sort.map(({ field, desc }, i) => ({ desc, ...sortingOf(asking, field, `o${i}`) }));
  const order = [
    ...(grouping === null ? [] : [`${grouping.sql} is null, ${grouping.sql}`]),
    ...sorting.map(({ sql, desc }) => `${sql} is null, ${sql}${desc ? " desc" : ""}`),
    "r.project_id",
    SOURCES[about].key,
  ];
  const select = [
    "r.project_id as project_",
    "r.activity_id as activity_",
    `${SOURCES[about].key} as key_`,
    "r.currency as currency_",
    "r.scale as scale_",
    `${groupValue} as group_`,
    ...columns.map(({ name, sql }) => `${sql} as \`${name}\``),
  ];
  return run(
    select.join(", "),
    [
      ...(grouping === null ? [] : [grouping.join]),
      ...sorting.map(({ join }) => join),
      ...columns.map(({ join }) => join),
    ],
    { sql: `${within.sql} order by ${order.join(", ")} limit ${shown}`, values: within.values },
  );
}
