import { isDeepStrictEqual } from "node:util";
import { REGISTER_TABLES, type RegisterTable } from "@chronometra/contract";
import { leaveId, type Calendar, type Category, type Person, type Team } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { SettingEntity } from "../cycle/cycleEntities.ts";
import { RegisterRowEntity } from "./registerEntity.ts";

/** How the calendars begin that hold someone's leave. */
const LEAVE = leaveId("");

/** A row of the register, or of a plan that may say the same. */
export type Row = Calendar | Person | Team | Category;

/** In which money the register keeps rates. */
export interface House {
  readonly currency: string;
  readonly minorDigits: number;
}
const SETTING = "register";
/** The setting of the currency of sums over projects. */
const SUMS = "exchange";
const BY_NAME: readonly RegisterTable[] = ["teams", "categories"];

/** By what rows of a table are known across projects: teams and categories, whose ids each plan makes for itself, by their names. */
export const knownBy = (table: RegisterTable, row: Row): string =>
  BY_NAME.includes(table) ? row.name.toLowerCase() : row.id;

/** The money of the register: before anyone kept a rate that of sums over projects, or of most projects. */
export async function houseMoney(database: DataSource | EntityManager): Promise<House> {
  const settings = database.getRepository(SettingEntity);
  const kept = (await settings.findOneBy({ name: SETTING })) ?? (await settings.findOneBy({ name: SUMS }));
  if (kept !== null) {
    const { currency, minorDigits } = JSON.parse(kept.value) as House;
    return { currency, minorDigits };
  }
  const [most] = (await database.query(
    `select json_value(head, '$.currency') as currency, coalesce(json_value(head, '$.minorDigits'), 2) as digits
      from project group by 1, 2 order by count(*) desc, 1 limit 1`,
  )) as { currency: string; digits: string }[];
  return { currency: most?.currency ?? "EUR", minorDigits: Number(most?.digits ?? 2) };
}

/** The money of the register; with the first rate that is kept it stays, whatever projects come. */
export async function houseMoneyFor(manager: EntityManager, rows: readonly Row[]): Promise<House> {
  const house = await houseMoney(manager);
  if (rows.every((row) => ((row as Person).rates ?? []).length === 0)) return house;
  await manager.getRepository(SettingEntity).upsert({ name: SETTING, value: JSON.stringify(house) }, ["name"]);
  return house;
}

const withoutRates = (row: Row): Row => {
  const { rates: _rates, ...rest } = row as Person;
  return rest;
};

/** A project that rows are told of: its money is that of the register or another, and it has a calendar of its own. */
export interface Owner {
  readonly sameMoney: boolean;
  readonly calendar: string;
}

/** What of a row has to agree: of teams members in any order, of people the calendar they work by in that project. */
function comparable(table: RegisterTable, row: Row, { sameMoney, calendar }: Owner): unknown {
  if (table === "categories") return row.name;
  if (table === "teams") return { name: row.name, members: [...(row as Team).members].sort() };
  if (table === "calendars") return row;
  return { ...(sameMoney ? row : withoutRates(row)), calendar: (row as Person).calendar ?? calendar };
}

/** Whether a project's row says what the register says; rates of another money are the project's own. */
export const saysSame = (table: RegisterTable, registered: Row, own: Row, owner: Owner): boolean =>
  isDeepStrictEqual(comparable(table, registered, owner), comparable(table, own, owner));

export interface RegisterRow {
  readonly entity: RegisterRowEntity;
  readonly table: RegisterTable;
  readonly row: Row;
}

/** All rows of the register, by their names. */
export async function registerRows(database: DataSource | EntityManager): Promise<RegisterRow[]> {
  const entities = await database.getRepository(RegisterRowEntity).find();
  return entities
    .map((entity) => ({ entity, table: entity.table, row: JSON.parse(entity.doc) as Row }))
    .sort((a, b) => a.row.name.localeCompare(b.row.name, "en") || (a.row.id < b.row.id ? -1 : 1));
}

/** A row that some project has. */
export interface OwnRow {
  readonly project: string;
  readonly table: RegisterTable;
  readonly row: Row;
}

/**
 * The rows of all open projects that could be in the register. Leave is a project's own: people are told by the calendar that they
 * work by, leave apart. Whoever stands for a role is nobody yet.
 */
export async function ownRows(database: DataSource | EntityManager): Promise<OwnRow[]> {
  const rows = (await database.query(
    `select project_id as project, table_name as \`table\`, doc from plan_row
      where table_name in (?) and project_id not in (select project_id from project_closing) order by row_key, project_id`,
    [[...REGISTER_TABLES, "placeholders"]],
  )) as { project: string; table: RegisterTable | "placeholders"; doc: string }[];
  const placeholders = new Set<string>();
  const leave = new Map<string, Calendar>();
  const read: OwnRow[] = [];
  for (const { project, table, doc } of rows) {
    const row = JSON.parse(doc) as Row;
    if (table === "placeholders") placeholders.add(`${project} ${(row as unknown as { person: string }).person}`);
    else if (table === "calendars" && row.id.startsWith(LEAVE)) leave.set(`${project} ${row.id}`, row as Calendar);
    else read.push({ project, table, row });
  }
  return read.flatMap(({ project, table, row }): OwnRow[] => {
    if (table !== "people") return [{ project, table, row }];
    if (placeholders.has(`${project} ${row.id}`)) return [];
    const { calendar, ...rest } = row as Person;
    const by = calendar === leaveId(row.id) ? leave.get(`${project} ${calendar}`)?.base : calendar;
    return [{ project, table, row: by === undefined ? rest : { ...rest, calendar: by } }];
  });
}

/** Of what projects have and the register has not, one of each: the one that most say alike, those of the register's money first. */
export function missingRows(
  known: readonly RegisterRow[],
  own: readonly OwnRow[],
  isHouseMoney: (project: string) => boolean,
): { table: RegisterTable; row: Row }[] {
  const has = new Set(known.map(({ table, row }) => `${table} ${knownBy(table, row)}`));
  const found = new Map<string, { table: RegisterTable; says: Map<string, { row: Row; weight: number }> }>();
  for (const { project, table, row } of own) {
    const key = `${table} ${knownBy(table, row)}`;
    if (has.has(key)) continue;
    const ours = isHouseMoney(project);
    const told = table === "people" && !ours ? withoutRates(row) : row;
    const says = found.get(key)?.says ?? new Map<string, { row: Row; weight: number }>();
    const text = JSON.stringify(told);
    // A project of the register's money outweighs any number of others.
    says.set(text, { row: told, weight: (says.get(text)?.weight ?? 0) + (ours ? 1_000_000 : 1) });
    found.set(key, { table, says });
  }
  const taken = [...found.values()].map(({ table, says }) => ({
    table,
    row: [...says.values()].reduce((most, each) => (each.weight > most.weight ? each : most)).row,
  }));
  const people = new Set([...known, ...taken].flatMap(({ table, row }) => (table === "people" ? [row.id] : [])));
  return taken.map(({ table, row }) =>
    table === "teams"
      ? { table, row: { ...row, members: (row as Team).members.filter((id) => people.has(id)) } }
      : { table, row },
  );
}
