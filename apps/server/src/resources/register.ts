import type { Me, RegisterTable, WriteRegister } from "@chronometra/contract";
import { leaveId, type Calendar, type Change, type Person, type Plan, type Team } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { storeChanges } from "../plan/changeService.ts";
import { loadPlan } from "../plan/stored/planStore.ts";
import { effectOn } from "../plan/prepare.ts";
import { writeProjects, type Writing } from "../plan/writeProjects.ts";
import { findProject } from "../project/projectAccess.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { RegisterRowEntity } from "./registerEntity.ts";
import {
  houseMoney,
  houseMoneyFor,
  missingRows,
  ownRows,
  registerRows,
  type House,
  type RegisterRow,
  type Row,
} from "./registerRows.ts";
import { rowChange } from "./sharedRows.ts";
import { isMoneyOf, projectsById } from "./readRegister.ts";
import { noteHouse } from "../shared/noted/noteHouse.ts";
import { registerFields } from "./registerFields.ts";
import { inTransaction } from "../shared/database.ts";

/** A calendar of the register and those it rests on, what it rests on first; each once, also where they go round. */
function withBases(rows: readonly RegisterRow[], id: string | undefined): Calendar[] {
  const found: Calendar[] = [];
  for (let at = id; at !== undefined;) {
    const calendar = rows.find(({ table, row }) => table === "calendars" && row.id === at)?.row as Calendar | undefined;
    if (calendar === undefined || found.includes(calendar)) break;
    found.unshift(calendar);
    at = calendar.base;
  }
  return found;
}

/**
 * A row as a plan takes it: with the calendars it needs where the plan lacks them, in the plan's own money, under the
 * plan's own id.
 */
export function changesInto(
  plan: Plan,
  rows: readonly RegisterRow[],
  { table, row }: Omit<RegisterRow, "entity">,
  house: House,
): Change[] {
  if (table === "teams" || table === "categories") {
    const known = [...plan[table]].find(([, each]) => each.name.toLowerCase() === row.name.toLowerCase());
    const own = { ...row, id: known?.[1].id ?? row.id };
    const fit =
      table === "teams" ? { ...own, members: (row as Team).members.filter((person) => plan.people.has(person)) } : own;
    return rowChange(plan, table, fit as Team, known?.[0]);
  }
  const needed = withBases(rows, table === "calendars" ? (row as Calendar).base : (row as Person).calendar);
  const calendars = needed.flatMap((calendar) =>
    plan.calendars.has(calendar.id) ? [] : rowChange(plan, "calendars", calendar),
  );
  if (table === "calendars") return [...calendars, ...rowChange(plan, table, row as Calendar)];
  return [...calendars, ...personInto(plan, row as Person, isMoneyOf(house, plan.project))];
}

/**
 * Someone as a plan takes them: their leave there stays, on the calendar that they work by now, and so do rates of
 * another money.
 */
function personInto(plan: Plan, { rates, calendar, ...person }: Person, sameMoney: boolean): Change[] {
  const own = plan.people.get(person.id);
  const leave = own?.calendar === leaveId(person.id) ? plan.calendars.get(own.calendar) : undefined;
  const [paid, by] = [sameMoney ? rates : own?.rates, leave?.id ?? calendar];
  return [
    ...(leave === undefined ? [] : rowChange(plan, "calendars", { ...leave, base: calendar ?? plan.project.calendar })),
    ...rowChange(plan, "people", {
      ...person,
      ...(by === undefined ? {} : { calendar: by }),
      ...(paid === undefined ? {} : { rates: paid }),
    }),
  ];
}

/** What a list of changes per project would move; stores nothing. */
export async function effectsOf(database: DataSource, ids: readonly string[], changes: (plan: Plan) => Change[]) {
  const effects = [];
  for (const id of new Set(ids)) {
    const project = await findProject(database, id);
    const plan = await loadPlan(database.manager, project);
    const effect = await effectOn({ id, plan }, changes(plan));
    effects.push({ project: id, code: project.code, name: project.head.name, effect });
  }
  return effects;
}

/** Throws where a row leans on a calendar or a person that the register has not. */
function checkRow(rows: readonly RegisterRow[], { table, row }: WriteRegister["change"]): void {
  const has = (which: RegisterTable, id: string): boolean =>
    rows.some((each) => each.table === which && each.row.id === id);
  const calendar = table === "people" ? row.calendar : table === "calendars" ? row.base : undefined;
  if (calendar !== undefined && !has("calendars", calendar))
    throw new Failure("invalid", `The register has no calendar "${calendar}"; add it first, or select another.`);
  if (table === "calendars" && row.base !== undefined) {
    const others = rows.map((each) => (each.table === "calendars" && each.row.id === row.id ? { ...each, row } : each));
    if (withBases(others, row.base).some(({ base }) => base === row.id) || row.base === row.id)
      throw new Failure("invalid", `${row.name} would rest on itself; select another calendar for it to rest on.`);
  }
  if (table === "teams") {
    const unknown = row.members.find((person) => !has("people", person));
    if (unknown !== undefined)
      throw new Failure("invalid", `The register has no person "${unknown}"; add them first, or leave them out.`);
  }
  const twin = rows.find(
    (each) => each.table === table && each.row.id !== row.id && each.row.name.toLowerCase() === row.name.toLowerCase(),
  );
  if (twin !== undefined && table !== "people")
    throw new Failure("invalid", `The register has “${twin.row.name}” already; give it another name.`);
}

export const LABELS: Record<RegisterTable, string> = {
  calendars: "Calendar",
  people: "Person",
  teams: "Team",
  categories: "Cost category",
};

/** What writing a row to projects would move, project by project. */
export async function registerEffect(database: DataSource, { change, projects }: WriteRegister) {
  const [house, rows] = [await houseMoney(database), await registerRows(database)];
  checkRow(rows, change);
  return effectsOf(database, projects, (plan) => changesInto(plan, rows, change, house));
}

async function putRow(
  manager: EntityManager,
  me: Me,
  { table, row }: { table: RegisterTable; row: Row },
): Promise<void> {
  await manager
    .getRepository(RegisterRowEntity)
    .upsert({ table, id: row.id, doc: JSON.stringify(row), changedBy: me.id, changedAt: new Date() }, ["table", "id"]);
}

/** Keeps a row, and writes it to projects, all or nothing; gives the revisions, for undoing. */
export async function writeRegister(
  database: DataSource,
  me: Me,
  { change, seen, projects }: WriteRegister,
): Promise<{ project: string; revision: number }[]> {
  let ahead: Promise<[Awaited<ReturnType<typeof registerRows>>, House]> | undefined;
  const work = async (writing: Writing): Promise<{ project: string; revision: number }[]> => {
    const { manager } = writing;
    // Whoever writes the same row waits here, and then sees it.
    const [locked] = (await manager.query(
      "select doc from register_row where table_name = ? and row_key = ? for update",
      [change.table, change.row.id],
    )) as { doc: string }[];
    if (!sameAsSeen(locked === undefined ? null : (JSON.parse(locked.doc) as Row), seen))
      throw new Failure(
        "conflict",
        `${LABELS[change.table]} ${change.row.name} was changed by someone else meanwhile; look at it as it is now, and change it again.`,
      );
    const house = await houseMoneyFor(manager, [change.row]);
    const rows = await registerRows(manager);
    checkRow(rows, change);
    await putRow(manager, me, change);
    const was = locked === undefined ? null : registerFields(JSON.parse(locked.doc) as Row);
    const subject = `${LABELS[change.table]} ${change.row.name}`;
    await noteHouse(manager, me, { about: "register", subject }, was, registerFields(change.row));
    const stored: { project: string; revision: number }[] = [];
    for (const id of new Set(projects)) {
      const project = await writing.editable(id);
      const changes = changesInto(await writing.plan(project), rows, change, house);
      const label = `${LABELS[change.table]} ${change.row.name}, as the register has it`.slice(0, 200);
      if (changes.length > 0)
        stored.push({
          project: id,
          revision: (await storeChanges(writing, project, { changes, label, through: "register" })).result.revision,
        });
    }
    return stored;
  };
  return writeProjects(database, me, projects, work, async (plan) => {
    const [rows, house] = await (ahead ??= Promise.all([registerRows(database), houseMoney(database)]));
    return changesInto(plan, rows, change, house);
  });
}

/** Whether a row is as its writer saw it; whoever saw no rates is not asked for them. */
function sameAsSeen(row: Row | null, seen: unknown): boolean {
  if (row === null || seen === null || seen === undefined) return row === null && (seen === null || seen === undefined);
  const sorted = (value: object): string => JSON.stringify(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)));
  const { rates, ...rest } = row as Person;
  return (
    typeof seen === "object" && (sorted(row) === sorted(seen) || (rates?.length === 0 && sorted(rest) === sorted(seen)))
  );
}

/** Takes in all that projects have and the register has not; gives how many rows. */
export async function takeInMissing(database: DataSource, me: Me): Promise<number> {
  return writeProjects(database, me, [], async ({ manager }) => {
    const projects = await projectsById(manager, await houseMoney(manager));
    const missing = missingRows(
      await registerRows(manager),
      await ownRows(manager),
      (project) => projects.get(project)?.sameMoney === true,
    );
    await houseMoneyFor(
      manager,
      missing.map(({ row }) => row),
    );
    for (const each of missing) await putRow(manager, me, each);
    return missing.length;
  });
}

/** Removes a row that no other row of the register leans on; projects keep theirs. */
export async function removeFromRegister(database: DataSource, me: Me, table: string, id: string): Promise<void> {
  const rows = await registerRows(database);
  const found = orNotFound(
    rows.find((each) => each.table === table && each.row.id === id),
    "row of that name in the register",
  );
  const leaning = rows.filter(
    (each) =>
      (table === "calendars" &&
        ((each.table === "calendars" && (each.row as Calendar).base === id) ||
          (each.table === "people" && (each.row as Person).calendar === id))) ||
      (table === "people" && each.table === "teams" && (each.row as Team).members.includes(id)),
  );
  if (leaning.length > 0)
    throw new Failure(
      "invalid",
      `${found.row.name} is used by ${leaning
        .slice(0, 3)
        .map(({ row }) => row.name)
        .join(", ")}${leaning.length > 3 ? ` and ${leaning.length - 3} more` : ""} in the register; change them first.`,
    );
  await inTransaction(database, async (manager) => {
    await manager.getRepository(RegisterRowEntity).delete({ table: found.table, id });
    const subject = `${LABELS[found.table]} ${found.row.name}`;
    await noteHouse(manager, me, { about: "register", subject }, registerFields(found.row), null);
  });
}
