import type { Me, Register, RegisterRates, RegisterTable } from "@chronometra/contract";
import { type Calendar, type Person, type ProjectHead, type Team } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { KEEPERS } from "../access/accessTable.ts";
import { accountNames } from "../access/accounts.ts";
import { holdsEverywhere, mayEdit, maySee } from "../project/reach.ts";
import { ProjectEntity } from "../project/projectEntity.ts";
import {
  houseMoney,
  knownBy,
  missingRows,
  ownRows,
  registerRows,
  saysSame,
  type House,
  type Owner,
  type OwnRow,
  type RegisterRow,
  type Row,
} from "./registerRows.ts";

interface Used extends Owner {
  readonly project: ProjectEntity;
}

export const isMoneyOf = (house: House, { currency, minorDigits = 2 }: ProjectHead): boolean =>
  currency === house.currency && minorDigits === house.minorDigits;

/** In which open projects that someone sees a row of the register is used, by their codes. */
function useOf(me: Me, { table, row }: RegisterRow, own: readonly OwnRow[], projects: ReadonlyMap<string, Used>) {
  return own
    .flatMap((each) => {
      const used = projects.get(each.project);
      if (used === undefined || !maySee(me, used.project)) return [];
      const { project } = used;
      return [
        {
          id: project.id,
          code: project.code,
          name: project.head.name,
          same: saysSame(table, row, each.row, used),
          mayEdit: mayEdit(me, project),
        },
      ];
    })
    .sort((a, b) => a.code.localeCompare(b.code));
}

/** The register with where each row is used; without what an hour costs. */
export async function readRegister(database: DataSource, me: Me): Promise<Register> {
  const [house, rows, own, names] = await Promise.all([
    houseMoney(database),
    registerRows(database),
    ownRows(database),
    accountNames(database),
  ]);
  const projects = await projectsById(database, house);
  const byKey = new Map<string, OwnRow[]>();
  for (const each of own) {
    const key = `${each.table} ${knownBy(each.table, each.row)}`;
    const same = byKey.get(key);
    if (same === undefined) byKey.set(key, [each]);
    else same.push(each);
  }
  const missing = missingRows(rows, own, (project) => projects.get(project)?.sameMoney === true);
  const count = (table: RegisterTable): number => missing.filter((each) => each.table === table).length;
  const entries = <T>(table: RegisterTable, present: (row: Row) => T) =>
    rows
      .filter((each) => each.table === table)
      .map((each) => ({
        row: present(each.row),
        changedBy: each.entity.changedBy === null ? null : (names.get(each.entity.changedBy) ?? ""),
        changedAt: each.entity.changedAt?.toISOString() ?? null,
        projects: useOf(me, each, byKey.get(`${table} ${knownBy(table, each.row)}`) ?? [], projects),
      }));
  return {
    ...house,
    mayWrite: KEEPERS.some((role) => holdsEverywhere(me, role)),
    calendars: entries("calendars", (row) => row as Calendar),
    people: entries("people", (row) => {
      const { rates: _rates, ...person } = row as Person;
      return person;
    }),
    teams: entries("teams", (row) => row as Team),
    categories: entries("categories", (row) => row),
    missing: {
      calendars: count("calendars"),
      people: count("people"),
      teams: count("teams"),
      categories: count("categories"),
    },
  };
}

/** What an hour of each person costs. */
export async function registerRates(database: DataSource): Promise<RegisterRates> {
  const rows = await registerRows(database);
  return Object.fromEntries(
    rows.flatMap(({ table, row }) => (table === "people" ? [[row.id, (row as Person).rates ?? []]] : [])),
  );
}

export async function projectsById(database: DataSource | EntityManager, house: House): Promise<Map<string, Used>> {
  const projects = await database
    .getRepository(ProjectEntity)
    .find({ select: { id: true, managerId: true, programmeId: true, code: true, head: true } });
  return new Map(
    projects.map((project) => [
      project.id,
      { project, sameMoney: isMoneyOf(house, project.head), calendar: project.head.calendar },
    ]),
  );
}
