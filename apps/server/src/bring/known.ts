import type { Me } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { ProgrammeEntity, ProjectEntity } from "../project/projectEntity.ts";
import { holdsIn, mayEdit } from "../project/reach.ts";
import { namables } from "../resources/namables.ts";

/** Where a line is to go. */
export interface Place {
  readonly project: string | null;
  readonly group: string | null;
}
type Found<T> = { readonly value: T } | { readonly fault: string };

/** A name however its words are put: “Keller, Amadou” is “Amadou Keller”. */
const plainName = (name: string): string =>
  name
    .toLowerCase()
    .split(/[\s,.;]+/)
    .filter((word) => word !== "")
    .toSorted()
    .join(" ");

/** Finds people by their names. */
export async function peopleByName(database: DataSource): Promise<(text: string) => Found<string>> {
  const byName = new Map<string, string[]>();
  for (const { id, name } of await namables(database))
    byName.set(plainName(name), [...(byName.get(plainName(name)) ?? []), id]);
  return (text) => {
    const found = byName.get(plainName(text)) ?? [];
    if (found.length === 1) return { value: found[0]! };
    return found.length === 0
      ? { fault: `“${text}” is nobody who can sign in or is in the register of people` }
      : { fault: `“${text}” is the name of ${found.length} people` };
  };
}

/** Finds projects by code, groups by name, and the whole house, as far as someone may add something there. */
export async function placesByName(database: DataSource, me: Me): Promise<(text: string) => Found<Place>> {
  const [projects, groups, closings] = await Promise.all([
    database
      .getRepository(ProjectEntity)
      .find({ select: { id: true, code: true, managerId: true, programmeId: true } }),
    database.getRepository(ProgrammeEntity).find(),
    database.query("select project_id as id from project_closing") as Promise<{ id: string }[]>,
  ]);
  const closed = new Set(closings.map(({ id }) => id));
  const byCode = new Map(
    projects.filter((project) => mayEdit(me, project)).map((each) => [each.code.toLowerCase(), each]),
  );
  const mayGroup = groups.filter(({ id, managerId }) => managerId === me.id || holdsIn(me, "controller", id));
  return (text) => {
    const plain = text.toLowerCase();
    // As a project is written in lists: its code, or its code and its name.
    const project = byCode.get(plain) ?? byCode.get(plain.split(/\s/)[0]!);
    if (project !== undefined)
      return closed.has(project.id)
        ? { fault: `${project.code} is closed` }
        : { value: { project: project.id, group: null } };
    const group = mayGroup.find(({ name }) => name.toLowerCase() === plain);
    if (group !== undefined) return { value: { project: null, group: group.id } };
    if (plain === "the whole house" && holdsIn(me, "controller", null))
      return { value: { project: null, group: null } };
    return { fault: `“${text}” is no code of a project, or name of a group, where you may add something` };
  };
}
