import type { Me } from "@chronometra/contract";
import {
  closeOf,
  compileCalendars,
  openOf,
  type Calendar,
  type EpochDay,
  type Person,
  type WorkCalendar,
} from "@chronometra/core";
import type { DataSource } from "typeorm";
import { EVERYTHING, seenSql } from "../project/reach.ts";

/** Someone as the plans that are not closed know them. */
export interface KnownPerson {
  readonly name: string;
  readonly role: string | null;
  /** The calendars that plans have for them, each once. */
  readonly calendars: Set<WorkCalendar>;
}

/**
 * People of any plan that is not closed, with the calendars that the plans have for them: everyone, or those named.
 * @param me of the plans that they see alone; left out, of all
 */
export async function everyone(
  database: DataSource,
  only: readonly string[] | null,
  me?: Me,
): Promise<Map<string, KnownPerson>> {
  const seen = me === undefined ? EVERYTHING : seenSql(me, "p");
  const rows = (await database.query(
    `select r.project_id as project, r.table_name as kind, r.doc, json_value(p.head, '$.calendar') as standard from plan_row r join project p on p.id = r.project_id where r.table_name in ('people', 'calendars') and p.id not in (select project_id from project_closing)${only === null ? "" : " and p.id in (select project_id from plan_row where table_name = 'people' and row_key in (?)) and (r.table_name = 'calendars' or r.row_key in (?))"} and ${seen.sql}`,
    [...(only === null ? [] : [only, only]), ...seen.values],
  )) as { project: string; kind: "people" | "calendars"; doc: string; standard: string }[];
  const calendars = new Map<string, Calendar[]>();
  for (const { project, kind, doc } of rows)
    if (kind === "calendars") calendars.set(project, [...(calendars.get(project) ?? []), JSON.parse(doc) as Calendar]);
  // Most projects have the same calendars: each set is compiled once.
  const compiled = new Map<string, ReturnType<typeof compileCalendars>["set"]>();
  const setOf = (project: string) => {
    const own = calendars.get(project) ?? [];
    const text = JSON.stringify(own);
    let set = compiled.get(text);
    if (set === undefined) compiled.set(text, (set = compileCalendars(own).set));
    return set;
  };
  const found = new Map<string, KnownPerson>();
  for (const { project, kind, doc, standard } of rows) {
    if (kind !== "people") continue;
    const { id, name, role, calendar } = JSON.parse(doc) as Person;
    const known = found.get(id) ?? { name, role: role ?? null, calendars: new Set<WorkCalendar>() };
    known.calendars.add(setOf(project).get(calendar ?? standard));
    found.set(id, known);
  }
  return found;
}

/**
 * Working minutes of someone's day: where plans know different calendars of them, the least, so that leave told to any of them
 * counts. What someone is expected to work, everywhere.
 */
export function minutesOn({ calendars }: Pick<KnownPerson, "calendars">, day: EpochDay): number {
  let least: number | null = null;
  for (const calendar of calendars) {
    const minutes = calendar.indexAt(closeOf(day)) - calendar.indexAt(openOf(day));
    if (least === null || minutes < least) least = minutes;
  }
  return least ?? 0;
}

/** What each of some people is expected to work on each of some days, in minutes. */
export async function expectedMinutes(
  database: DataSource,
  people: readonly string[],
  days: readonly EpochDay[],
): Promise<(person: string) => number[]> {
  const known = people.length === 0 ? new Map<string, KnownPerson>() : await everyone(database, people);
  return (person) => days.map((day) => (known.has(person) ? minutesOn(known.get(person)!, day) : 0));
}
