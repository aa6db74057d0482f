import type { Me } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { maySee } from "../../project/reach.ts";

/** Where a project stands, as questions speak of it. */
export interface ProjectPlace {
  readonly id: string;
  readonly project: string;
  readonly programme: string | null;
  readonly programmeId: string | null;
  readonly manager: string | null;
  readonly managerId: string;
}

/**
 * Fields that a row has from its project: few enough to be looked up here, so that no question joins them row by row.
 */
export type PlaceField = "project" | "programme" | "manager";
export const isPlace = (name: string): name is PlaceField =>
  name === "project" || name === "programme" || name === "manager";

/** The projects that someone sees by id, in the order of their codes. */
export async function placesOf(database: DataSource, me: Me): Promise<Map<string, ProjectPlace>> {
  const rows = (await database.query(
    `select p.id, concat(p.code, ' ', json_value(p.head, '$.name')) as project, g.name as programme, p.programme_id as programmeId, a.name as manager, p.manager_id as managerId
     from project p left join programme g on g.id = p.programme_id left join account a on a.id = p.manager_id`,
  )) as ProjectPlace[];
  return new Map(
    rows
      .filter((row) => maySee(me, row))
      .sort((a, b) => a.project.localeCompare(b.project))
      .map((row) => [row.id, row]),
  );
}

/** What a condition on a place compares. */
export const placeKey = (place: ProjectPlace, field: PlaceField): string | null =>
  field === "project" ? place.id : field === "programme" ? place.programmeId : place.managerId;
