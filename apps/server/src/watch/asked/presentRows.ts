import { OWN_PREFIX, type WatchAbout, type WatchQuestion, type WatchRow } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { mayEdit } from "../../project/reach.ts";
import { fieldOf, inWords, type Asker, type Loose } from "./fieldSql.ts";
import { isPlace } from "./places.ts";

const NUMERIC = new Set(["number", "days", "hours", "amount", "percent"]);

function valueOf(about: WatchAbout, name: string, value: unknown, asker: Asker): string | number | null {
  if (value === null || value === undefined) return null;
  return NUMERIC.has(fieldOf(about, name).type) ? Number(value) : inWords(about, name, value, asker);
}

/** What lies in tables of their own about some activities, fetched for those alone. */
async function sideRows<T>(database: DataSource, table: string, rows: readonly Loose[]): Promise<T[]> {
  const pairs = new Map(
    rows.map((row) => [`${String(row["project_"])} ${String(row["activity_"])}`, [row["project_"], row["activity_"]]]),
  );
  if (pairs.size === 0) return [];
  return database.query(
    `select * from ${table} where (project_id, activity_id) in (${[...pairs].map(() => "(?, ?)").join(", ")})`,
    [...pairs.values()].flat(),
  );
}

interface PersonRow {
  readonly project_id: string;
  readonly activity_id: string;
  readonly name: string;
  readonly role: string | null;
}

interface ValueRow {
  readonly project_id: string;
  readonly activity_id: string;
  readonly field: string;
  readonly text: string | null;
  readonly number: number | null;
}

/** Rows as they are given, with the people and own values of those that are shown. */
export async function presentRows(
  database: DataSource,
  asker: Asker,
  question: WatchQuestion,
  rows: readonly Loose[],
): Promise<WatchRow[]> {
  const { about, columns, group } = question;
  const wantsPeople = about === "activities" && columns.some((name) => name === "people" || name === "role");
  const [people, values] = await Promise.all([
    wantsPeople ? sideRows<PersonRow>(database, "activity_person", rows) : [],
    columns.some((name) => name.startsWith(OWN_PREFIX)) ? sideRows<ValueRow>(database, "activity_value", rows) : [],
  ]);
  const peopleOf = new Map<string, PersonRow[]>();
  for (const person of people) peopleOf.set(at(person), [...(peopleOf.get(at(person)) ?? []), person]);
  const ownOf = new Map(values.map((row) => [`${at(row)} ${row.field}`, row.text ?? row.number]));
  return rows.map((row): WatchRow => {
    const place = `${String(row["project_"])} ${String(row["activity_"])}`;
    const value = (name: string): string | number | null => {
      if (name.startsWith(OWN_PREFIX)) return ownOf.get(`${place} ${name.slice(OWN_PREFIX.length)}`) ?? null;
      if (isPlace(name)) return inWords(about, name, row["project_"], asker);
      if (!wantsPeople || (name !== "people" && name !== "role")) return valueOf(about, name, row[name], asker);
      const names = (peopleOf.get(place) ?? [])
        .map((person) => (name === "people" ? person.name : person.role))
        .filter((each) => each !== null);
      return names.length === 0 ? null : [...new Set(names)].sort().join(", ");
    };
    return {
      project: String(row["project_"]),
      activity: String(row["activity_"]),
      key: String(row["key_"]),
      currency: String(row["currency_"]),
      minorDigits: Math.round(Math.log10(Number(row["scale_"]))),
      mayEdit: mayEdit(asker.me, asker.places.get(String(row["project_"]))!),
      group: group === null ? null : inWords(about, group, row["group_"], asker),
      values: Object.fromEntries(columns.map((name) => [name, value(name)])),
    };
  });
}

const at = ({ project_id, activity_id }: { project_id: string; activity_id: string }): string =>
  `${project_id} ${activity_id}`;
