import type { DataSource, EntityManager } from "typeorm";
import { namesOf } from "../resources/namables.ts";

/** Keeps how the open risks of a project stand when a period of it is issued, for what moves until the next. */
export async function keepStandings(manager: EntityManager, projectId: string, number: number): Promise<void> {
  await manager.query("delete from matter_standing where project_id = ? and number = ?", [projectId, number]);
  await manager.query(
    `insert into matter_standing (project_id, number, matter_id, chance, severity)
       select h.project_id, ?, concat(h.project_id, ':', h.risk_id), h.chance, m.severity
         from risk_head h left join matter m on m.id = concat(h.project_id, ':', h.risk_id)
        where h.project_id = ? and h.gone is null`,
    [number, projectId],
  );
}

/** An action as whoever asked for it looks at it. */
export interface ActionStanding {
  readonly title: string;
  /** Whoever owns it by name; `null` where nobody does. */
  readonly owner: string | null;
  readonly due: string | null;
  /** The day on which it was done, and by whom; `null` of one that is not. */
  readonly closedOn: string | null;
  readonly closedBy: string | null;
}

/** How the actions of a project stand that were asked for elsewhere, by their id; removed ones are left out. */
export async function actionsOf(
  manager: DataSource | EntityManager,
  projectId: string,
): Promise<ReadonlyMap<string, ActionStanding>> {
  const rows = (await manager.query(
    `select m.id, m.title, m.owner, m.due, m.closed_on as closedOn,
        json_value(m.content, '$.closedBy') as closedBy
       from matter m where m.project_id = ? and m.kind = 'action' and m.removed = 0`,
    [projectId],
  )) as {
    id: string;
    title: string;
    owner: string | null;
    due: string | null;
    closedOn: string | null;
    closedBy: string | null;
  }[];
  const names = await namesOf(
    manager,
    rows.flatMap(({ owner, closedBy }) => [owner, closedBy].flatMap((id) => id ?? [])),
  );
  const nameOf = (id: string | null): string | null => (id === null ? null : (names.get(id) ?? null));
  return new Map(
    rows.map(({ id, title, owner, due, closedOn, closedBy }) => [
      id,
      { title, owner: nameOf(owner), due, closedOn, closedBy: closedOn === null ? null : nameOf(closedBy) },
    ]),
  );
}

/** The open issues of a project, each with its severity. */
export const openIssues = async (
  manager: DataSource | EntityManager,
  projectId: string,
): Promise<{ title: string; severity: string | null }[]> =>
  (await manager.query(
    "select title, severity from matter where project_id = ? and kind = 'issue' and state = 'open' and removed = 0 order by title",
    [projectId],
  )) as { title: string; severity: string | null }[];
