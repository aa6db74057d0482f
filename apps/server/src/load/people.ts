import type { Load, LoadCell, Me } from "@chronometra/contract";
import { addDays, formatDate, mondayOf, parseDate, type EpochDay, type Team } from "@chronometra/core";
import { In, type DataSource } from "typeorm";
import { loadPlan } from "../plan/stored/planStore.ts";
import { EVERYTHING, mayEdit, seenSql } from "../project/reach.ts";
import { groupsBelow } from "../project/groupTree.ts";
import { ProgrammeEntity, ProjectEntity } from "../project/projectEntity.ts";
import { everyone, minutesOn, type KnownPerson } from "../resources/capacity.ts";
import { Failure } from "../shared/failure.ts";
import { overPlans } from "../plan/held/overPlan.ts";
import type { LOAD_WORKS } from "./loadWorks.ts";

const overPlan = overPlans<typeof LOAD_WORKS>();

const WEEK_DAYS = 7;
const MOST_WEEKS = 106;

const mondayAround = (date: string): EpochDay => {
  const day = parseDate(date);
  if (day === null) throw new Failure("invalid", `"${date}" is no date; write YYYY-MM-DD.`);
  return mondayOf(day);
};

/** Working minutes of a week, as each of its days has them. */
const capacityIn = (monday: EpochDay, known: KnownPerson | undefined): number =>
  known === undefined
    ? 0
    : Array.from({ length: WEEK_DAYS }, (_, i) => minutesOn(known, addDays(monday, i))).reduce(
        (sum, minutes) => sum + minutes,
        0,
      );

/** The Mondays of some weeks from the one around a day on. */
function mondaysFrom(from: string, weeks: number): EpochDay[] {
  if (!Number.isInteger(weeks) || weeks < 1 || weeks > MOST_WEEKS)
    throw new Failure("invalid", `Ask for 1 to ${MOST_WEEKS} weeks.`);
  const first = mondayAround(from);
  return Array.from({ length: weeks }, (_, i) => addDays(first, i * WEEK_DAYS));
}

/**
 * People's weeks from the one around a day on, over the projects that are not closed.
 * @param me of the projects that they see alone; left out, of all
 */
export async function loadFrom(database: DataSource, from: string, weeks: number, me?: Me): Promise<Load> {
  const mondays = mondaysFrom(from, weeks);
  const dates = mondays.map(formatDate);
  const place = new Map(dates.map((date, i) => [date, i]));
  const { sql, values } = me === undefined ? EVERYTHING : seenSql(me, "p");
  const inSeen = `project_id in (select p.id from project p where ${sql})`;
  const [people, rows, teams, placeholders] = await Promise.all([
    everyone(database, null, me),
    database.query(
      `select person_id as person, monday, sum(demand) as demand, sum(things) as things, sum(planned) as planned, sum(posted) as posted from load_week
       where monday between ? and ? and project_id not in (select project_id from project_closing) and ${inSeen} group by person_id, monday`,
      [dates[0], dates.at(-1), ...values],
    ) as Promise<{ person: string; monday: string; demand: string; things: string; planned: string; posted: string }[]>,
    database.query(`select doc from plan_row where table_name = 'teams' and ${inSeen}`, [...values]) as Promise<
      { doc: string }[]
    >,
    database.query("select distinct row_key as id from plan_row where table_name = 'placeholders'") as Promise<
      { id: string }[]
    >,
  ]);
  const teamsOf = new Map<string, Set<string>>();
  for (const { doc } of teams) {
    const { name, members } = JSON.parse(doc) as Team;
    for (const member of members) teamsOf.set(member, (teamsOf.get(member) ?? new Set()).add(name));
  }
  const roles = new Set(placeholders.map(({ id }) => id));
  const none = (): number[] => dates.map(() => 0);
  const lines = new Map<string, Load["people"][number]>();
  const lineOf = (person: string): Load["people"][number] => {
    const known = people.get(person);
    let line = lines.get(person);
    if (line === undefined) {
      line = {
        id: person,
        name: known?.name ?? person,
        role: known?.role ?? null,
        teams: [...(teamsOf.get(person) ?? [])].sort(),
        placeholder: roles.has(person),
        capacity: mondays.map((each) => capacityIn(each, known)),
        demand: none(),
        things: none(),
        planned: none(),
        posted: none(),
      };
      lines.set(person, line);
    }
    return line;
  };
  // Whoever has time is told, also where nothing is asked of them.
  for (const person of people.keys()) lineOf(person);
  for (const { person, monday, ...sums } of rows) {
    const line = lineOf(person);
    const i = place.get(monday)!;
    for (const measure of ["demand", "things", "planned", "posted"] as const) line[measure][i] = Number(sums[measure]);
  }
  return { weeks: dates, people: [...lines.values()].sort((a, b) => a.name.localeCompare(b.name)) };
}

/**
 * The weeks of those who have work in them in a group's projects, or in one below it; with all their work, wherever it
 * is.
 */
export async function loadOfGroup(
  database: DataSource,
  me: Me,
  group: string,
  { from, weeks }: { readonly from: string; readonly weeks: number },
): Promise<Load> {
  const mondays = mondaysFrom(from, weeks).map(formatDate);
  const groups = await database.getRepository(ProgrammeEntity).find({ select: { id: true, parentId: true } });
  if (!groups.some(({ id }) => id === group)) throw new Failure("notFound", "There is no group of that address.");
  const seen = seenSql(me, "p");
  const rows = (await database.query(
    `select distinct l.person_id as person from load_week l join project p on p.id = l.project_id
      where l.monday between ? and ? and l.demand > 0 and p.programme_id in (?)
        and p.id not in (select project_id from project_closing) and ${seen.sql}`,
    [mondays[0], mondays.at(-1), [...groupsBelow(groups, group)], ...seen.values],
  )) as { person: string }[];
  const working = new Set(rows.map(({ person }) => person));
  const load = await loadFrom(database, from, weeks, me);
  return { ...load, people: load.people.filter(({ id }) => working.has(id)) };
}

/** What one person's week consists of: the work left in it, and the time booked, project by project. */
export async function workInWeek(database: DataSource, me: Me, person: string, date: string): Promise<LoadCell> {
  const monday = mondayAround(date);
  const from = formatDate(monday);
  const seen = seenSql(me, "p");
  const ids = (
    (await database.query(
      `select l.project_id as id from load_week l join project p on p.id = l.project_id
        where person_id = ? and monday = ? and p.id not in (select project_id from project_closing) and ${seen.sql}`,
      [person, from, ...seen.values],
    )) as { id: string }[]
  ).map(({ id }) => id);
  if (ids.length === 0) return [];
  const cells: LoadCell = [];
  for (const project of await database
    .getRepository(ProjectEntity)
    .find({ where: { id: In(ids) }, order: { code: "ASC" } })) {
    const plan = await loadPlan(database.manager, project);
    const rows = await overPlan("personWeek", { id: project.id, plan }, { person, monday: from });
    for (const row of rows)
      cells.push({ project: project.id, projectName: project.head.name, ...row, mayEdit: mayEdit(me, project) });
  }
  return cells.sort((a, b) => b.minutes - a.minutes);
}
