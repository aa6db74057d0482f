import { OWN_PREFIX, type Me, type WatchAbout, type WatchAnswer, type WatchQuestion } from "@chronometra/contract";
import type { Team } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { fieldOf, inWords, SOURCES, whereSql, type Asker, type Loose, type Sql } from "./fieldSql.ts";
import { isPlace, placesOf } from "./places.ts";
import { presentRows } from "./presentRows.ts";

const SHOWN_AT_MOST = 500;
const GROUPS_AT_MOST = 1000;
const PIVOT_AT_MOST = 60;

const NOTHING: Sql = { sql: "", values: [] };

/** Who asks, with the people of the teams that they are in. */
export async function askerOf(database: DataSource, me: Me): Promise<Asker> {
  const places = await placesOf(database);
  if (me.person === null) return { me, places, team: [] };
  const rows = (await database.query("select doc from plan_row where table_name = 'teams'")) as { doc: string }[];
  const teams = rows.map(({ doc }) => JSON.parse(doc) as Team).filter(({ members }) => members.includes(me.person!));
  return { me, places, team: [...new Set(teams.flatMap(({ members }) => members))].filter((person) => person !== me.person) };
}

/** A field to show, sort or group by, with the table it has to be joined from. A place is the project's id here, and named later. */
function shownAs(about: WatchAbout, name: string, alias: string): { sql: string; join: Sql } {
  if (name.startsWith(OWN_PREFIX)) return { sql: `coalesce(${alias}.text, ${alias}.number)`, join: { sql: ` left join activity_value ${alias} on ${alias}.project_id = r.project_id and ${alias}.activity_id = r.activity_id and ${alias}.field = ?`, values: [fieldOf(about, name).head] } };
  if (isPlace(name)) return { sql: "r.project_id", join: NOTHING };
  if (name === "owner") return { sql: "r.owner", join: NOTHING };
  if (name === "person") return { sql: "s.person", join: NOTHING };
  if (about === "activities" && name === "people") return { sql: `${alias}.name`, join: { sql: ` left join activity_person ${alias} on ${alias}.project_id = r.project_id and ${alias}.activity_id = r.activity_id`, values: [] } };
  if (about === "activities" && name === "role") return { sql: `${alias}.role`, join: { sql: ` left join (select distinct project_id, activity_id, role from activity_person) ${alias} on ${alias}.project_id = r.project_id and ${alias}.activity_id = r.activity_id`, values: [] } };
  return { sql: SOURCES[about].expressions[name]!, join: NOTHING };
}

/** What rows are sorted by: a place by its name. */
function sortedBy(about: WatchAbout, name: string, alias: string): { sql: string; join: Sql } {
  if (!isPlace(name)) return shownAs(about, name, alias);
  const project = ` join project ${alias}p on ${alias}p.id = r.project_id`;
  if (name === "project") return { sql: `${alias}p.code`, join: { sql: project, values: [] } };
  const [table, key] = name === "programme" ? ["programme", "programme_id"] : ["account", "manager_id"];
  return { sql: `${alias}.name`, join: { sql: `${project} left join ${table} ${alias} on ${alias}.id = ${alias}p.${key}`, values: [] } };
}

/** A statement over the rows that hold: what is selected, what is joined for it, and what comes after the conditions. */
type Run = (select: string, joins: readonly Sql[], rest?: Sql) => Promise<Loose[]>;

interface Asking {
  readonly question: WatchQuestion;
  readonly asker: Asker;
  readonly run: Run;
  /** Fields shown that are summed. */
  readonly summed: readonly string[];
}

const byName = (a: { name: string | null }, b: { name: string | null }): number => (a.name === null ? 1 : b.name === null ? -1 : a.name < b.name ? -1 : a.name > b.name ? 1 : 0);

interface Summed {
  count: number;
  least: string | null;
  most: string | null;
  scale: number;
  readonly sums: Record<string, number>;
}

const sumsSql = ({ question: { about }, summed }: Asking): string => ["count(*) as count_", "min(r.currency) as least_", "max(r.currency) as most_", "max(r.scale) as scale_", ...summed.map((name) => `sum(${SOURCES[about].expressions[name]!}) as \`${name}\``)].join(", ");

const readSums = (row: Loose, summed: readonly string[]): Summed => ({
  count: Number(row["count_"]),
  least: row["least_"] as string | null,
  most: row["most_"] as string | null,
  scale: Number(row["scale_"] ?? 100),
  sums: Object.fromEntries(summed.map((name) => [name, Number(row[name] ?? 0)])),
});

function addSums(into: Summed, more: Summed): void {
  into.count += more.count;
  into.scale = Math.max(into.scale, more.scale);
  if (more.least !== null && (into.least === null || more.least < into.least)) into.least = more.least;
  if (more.most !== null && (into.most === null || more.most > into.most)) into.most = more.most;
  for (const [name, value] of Object.entries(more.sums)) into.sums[name] = (into.sums[name] ?? 0) + value;
}

/** Amounts are only summed where they are in one currency. */
const presentSums = (about: WatchAbout, { least, most, sums }: Summed): Record<string, number | null> => Object.fromEntries(Object.entries(sums).map(([name, value]) => [name, fieldOf(about, name).type === "amount" && least !== most ? null : value]));

/** Groups with their sums, by name; `several` ones overlap. */
async function groupsOf({ question: { about, group }, asker, run, summed }: Asking, sums: string): Promise<{ name: string | null; of: Summed; keys: unknown[] }[]> {
  const by = shownAs(about, group!, "g");
  const rows = await run(`${by.sql} as name_, ${sums}`, [by.join], { sql: ` group by ${by.sql}`, values: [] });
  const groups = new Map<string | null, { name: string | null; of: Summed; keys: unknown[] }>();
  for (const row of rows) {
    const name = inWords(about, group!, row["name_"], asker);
    const own = readSums(row, summed);
    const known = groups.get(name);
    if (known === undefined) groups.set(name, { name, of: own, keys: [row["name_"]] });
    else {
      addSums(known.of, own);
      known.keys.push(row["name_"]);
    }
  }
  return [...groups.values()].sort(byName);
}

/** Answers a question over all projects. Throws a Failure for a field or condition that does not exist. */
export async function ask(database: DataSource, me: Me, question: WatchQuestion, shown = SHOWN_AT_MOST): Promise<WatchAnswer> {
  const { about, group, pivot } = question;
  for (const name of [...question.columns, ...question.sort.map(({ field }) => field), ...(group === null ? [] : [group]), ...(pivot === null ? [] : [pivot.rows, ...(pivot.columns === null ? [] : [pivot.columns]), ...(pivot.sum === null ? [] : [pivot.sum])])]) fieldOf(about, name);
  const asker = await askerOf(database, me);
  const where = whereSql(about, question.where, asker);
  const run: Run = (select, joins, rest = NOTHING) => database.query(`select ${select} from ${SOURCES[about].from}${joins.map(({ sql }) => sql).join("")} where ${where.sql}${rest.sql}`, [...joins.flatMap(({ values }) => values), ...where.values, ...rest.values]);
  const asking: Asking = { question, asker, run, summed: question.columns.filter((name) => fieldOf(about, name).summed === true) };
  const sums = sumsSql(asking);
  const overlapping = group !== null && fieldOf(about, group).several === true;
  const [added, { groups, rows }, counted] = await Promise.all([
    group === null || overlapping ? run(sums, []).then((found) => readSums(found[0]!, asking.summed)) : null,
    groupsAndRows(asking, sums, shown),
    pivot === null ? null : pivotOf(asking),
  ]);
  const whole = added ?? groups.reduce<Summed>((all, { of }) => (addSums(all, of), all), { count: 0, least: null, most: null, scale: 100, sums: Object.fromEntries(asking.summed.map((name) => [name, 0])) });
  return {
    count: whole.count,
    shown: rows.length,
    currency: whole.least === whole.most ? whole.least : null,
    minorDigits: Math.round(Math.log10(whole.scale)),
    sums: presentSums(about, whole),
    groups: groups.slice(0, GROUPS_AT_MOST).map(({ name, of }) => ({ name, count: of.count, sums: presentSums(about, of) })),
    rows: await presentRows(database, asker, question, rows),
    pivot: counted,
  };
}

/** Groups and the rows to show; of places only the rows of the first groups are looked for. */
async function groupsAndRows(asking: Asking, sums: string, shown: number): Promise<{ groups: Awaited<ReturnType<typeof groupsOf>>; rows: Loose[] }> {
  const { group } = asking.question;
  if (group === null) return { groups: [], rows: await rowsOf(asking, shown, null) };
  const groups = await groupsOf(asking, sums);
  return { groups, rows: await rowsOf(asking, shown, firstProjects(group, groups, shown)) };
}

/** The projects in which the rows of the first groups lie, where rows are grouped by place: all others need not be sorted. */
function firstProjects(group: string, groups: readonly { of: Summed; keys: unknown[] }[], shown: number): string[] | null {
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

async function rowsOf({ question, run }: Asking, shown: number, projects: readonly string[] | null): Promise<Loose[]> {
  const { about, group, sort } = question;
  if (projects !== null && projects.length === 0) return [];
  const plain = question.columns.filter((name) => !name.startsWith(OWN_PREFIX) && !isPlace(name) && !(about === "activities" && (name === "people" || name === "role")));
  const columns = plain.map((name, i) => ({ name, ...shownAs(about, name, `c${i}`) }));
  const grouping = group === null ? null : sortedBy(about, group, "g");
  const groupValue = group === null ? "null" : isPlace(group) ? "r.project_id" : grouping!.sql;
  const sorting = sort.map(({ field, desc }, i) => ({ desc, ...sortedBy(about, field, `o${i}`) }));
  const order = [...(grouping === null ? [] : [`${grouping.sql} is null, ${grouping.sql}`]), ...sorting.map(({ sql, desc }) => `${sql} is null, ${sql}${desc ? " desc" : ""}`), "r.project_id", SOURCES[about].key];
  const select = ["r.project_id as project_", "r.activity_id as activity_", `${SOURCES[about].key} as key_`, "r.currency as currency_", `${groupValue} as group_`, ...columns.map(({ name, sql }) => `${sql} as \`${name}\``)];
  const within: Sql = projects === null ? NOTHING : { sql: " and r.project_id in (?)", values: [projects] };
  return run(select.join(", "), [...(grouping === null ? [] : [grouping.join]), ...sorting.map(({ join }) => join), ...columns.map(({ join }) => join)], { sql: `${within.sql} order by ${order.join(", ")} limit ${shown}`, values: within.values });
}

/** How a pivot's rows and columns are called: dates by their month, all else by what it says. */
const pivotSql = (about: WatchAbout, name: string, sql: string): string => (fieldOf(about, name).type === "date" ? `substring(${sql}, 1, 7)` : sql);

async function pivotOf({ question: { about, pivot }, asker, run }: Asking): Promise<WatchAnswer["pivot"]> {
  const { rows, columns, sum } = pivot!;
  const [down, across] = [shownAs(about, rows, "d"), columns === null ? null : shownAs(about, columns, "x")];
  const [downSql, acrossSql] = [pivotSql(about, rows, down.sql), across === null ? "'all'" : pivotSql(about, columns!, across.sql)];
  const measure = sum === null || fieldOf(about, sum).summed !== true ? "count(*)" : `sum(${SOURCES[about].expressions[sum]!})`;
  const found = await run(`${downSql} as down_, ${acrossSql} as across_, ${measure} as measure_`, [down.join, ...(across === null ? [] : [across.join])], { sql: ` group by ${downSql}, ${acrossSql}`, values: [] });
  const called = (name: string, value: unknown): string | null => inWords(about, name, value, asker);
  const names = (key: "down_" | "across_", field: string | null): (string | null)[] => [...new Set(found.map((row) => (field === null ? "all" : called(field, row[key]))))].map((name) => ({ name })).sort(byName).slice(0, PIVOT_AT_MOST).map(({ name }) => name);
  const rowNames = names("down_", rows);
  const columnNames = names("across_", columns);
  const cells = rowNames.map(() => columnNames.map(() => 0));
  for (const row of found) {
    const r = rowNames.indexOf(called(rows, row["down_"]));
    const c = columnNames.indexOf(columns === null ? "all" : called(columns, row["across_"]));
    if (r >= 0 && c >= 0) cells[r]![c]! += Number(row["measure_"]);
  }
  return { rows: rowNames.map((name) => name ?? "none"), columns: columnNames.map((name) => name ?? "none"), cells };
}
