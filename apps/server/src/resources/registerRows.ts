import { isDeepStrictEqual } from "node:util";
import { REGISTER_TABLES, type RegisterTable } from "@chronometra/contract";
import type { Calendar, Category, Person, Team } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { SettingEntity } from "../cycle/cycleEntities.ts";
import { RegisterRowEntity } from "./registerEntity.ts";

/** A row of the register, or of a plan that may say the same. */
export type Row = Calendar | Person | Team | Category;

/** In which money the register keeps rates. */
export interface House {
  readonly currency: string;
  readonly minorDigits: number;
}
const SETTING = "register";
const BY_NAME: readonly RegisterTable[] = ["teams", "categories"];

/** By what rows of a table are known across projects: teams and categories, whose ids each plan makes for itself, by their names. */
export const knownBy = (table: RegisterTable, row: Row): string =>
  BY_NAME.includes(table) ? row.name.toLowerCase() : row.id;

/** The money of the register; that of most projects before anyone kept a rate. */
export async function houseMoney(database: DataSource | EntityManager): Promise<House> {
  const kept = await database.getRepository(SettingEntity).findOneBy({ name: SETTING });
  if (kept !== null) return JSON.parse(kept.value) as House;
  const [most] = (await database.query(
    `select json_value(head, '$.currency') as currency, coalesce(json_value(head, '$.minorDigits'), 2) as digits
      from project group by 1, 2 order by count(*) desc, 1 limit 1`,
  )) as { currency: string; digits: string }[];
  return { currency: most?.currency ?? "EUR", minorDigits: Number(most?.digits ?? 2) };
}

/** Keeps the money of the register from now on, whatever projects come. */
export async function keepHouseMoney(manager: EntityManager): Promise<House> {
  const house = await houseMoney(manager);
  await manager.getRepository(SettingEntity).upsert({ name: SETTING, value: JSON.stringify(house) }, ["name"]);
  return house;
}

const withoutRates = (row: Row): Row => {
  const { rates: _rates, ...rest } = row as Person;
  return rest;
};

/** Members of teams are told in whatever order; what a plan lets out says what it leaves as it is. */
const comparable = (table: RegisterTable, row: Row): unknown =>
  table === "teams"
    ? { name: row.name, members: [...(row as Team).members].sort() }
    : table === "categories"
      ? row.name
      : row;

/** Whether a plan's row says what the register says; rates of another money are the project's own. */
export function saysSame(table: RegisterTable, registered: Row, own: Row, sameMoney: boolean): boolean {
  if (table === "people" && !sameMoney) return isDeepStrictEqual(withoutRates(registered), withoutRates(own));
  return isDeepStrictEqual(comparable(table, registered), comparable(table, own));
}

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

/** The rows of all plans that could be in the register. */
export async function ownRows(database: DataSource | EntityManager): Promise<OwnRow[]> {
  const rows = (await database.query(
    "select project_id as project, table_name as `table`, doc from plan_row where table_name in (?) order by row_key, project_id",
    [[...REGISTER_TABLES]],
  )) as { project: string; table: RegisterTable; doc: string }[];
  return rows.map(({ project, table, doc }) => ({ project, table, row: JSON.parse(doc) as Row }));
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
    const taken = table === "people" && !ours ? withoutRates(row) : row;
    const says = found.get(key)?.says ?? new Map<string, { row: Row; weight: number }>();
    const text = JSON.stringify(taken);
    // A project of the register's money outweighs any number of others.
    says.set(text, { row: taken, weight: (says.get(text)?.weight ?? 0) + (ours ? 1_000_000 : 1) });
    found.set(key, { table, says });
  }
  return [...found.values()].map(({ table, says }) => ({
    table,
    row: [...says.values()].reduce((most, each) => (each.weight > most.weight ? each : most)).row,
  }));
}
