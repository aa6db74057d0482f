import type { DataSource } from "typeorm";
import type { Reporter } from "../writers/summarise.ts";

/** What the portfolio page says of a project's figures. */
export interface KeptLine {
  readonly revision: number;
  /** A `LineSummary` of the contract, as the bytes that are sent. */
  readonly summary: Buffer;
  /** Who has work that is not finished. */
  readonly people: readonly Reporter[];
  /** Whether it has an approved plan, without which it takes no part in a period. */
  readonly isApproved: boolean;
  readonly dataDate: string | null;
}

/** Lines that this server has read already, by project: the figures of a revision never change. */
const readOf = new WeakMap<DataSource, ReadonlyMap<string, KeptLine>>();

/** The lines of projects at the revisions given; only those that are new are read. A project without figures has none. */
export async function keptLines(
  database: DataSource,
  projects: readonly { readonly id: string; readonly revision: number }[],
): Promise<ReadonlyMap<string, KeptLine>> {
  const known = readOf.get(database);
  const lines = new Map<string, KeptLine>();
  const wanted: { id: string; revision: number }[] = [];
  for (const { id, revision } of projects) {
    const line = known?.get(id);
    if (line?.revision === revision) lines.set(id, line);
    else wanted.push({ id, revision });
  }
  if (wanted.length > 0) {
    const rows = (await database.query(
      `select project_id as id, revision, line, people, json_value(line, '$.baseline') is not null as approved, json_value(line, '$.dataDate') as dataDate from figures where (project_id, revision) in (${wanted.map(() => "(?, ?)").join(", ")})`,
      wanted.flatMap(({ id, revision }) => [id, revision]),
    )) as { id: string; revision: number; line: string; people: string; approved: number; dataDate: string | null }[];
    for (const { id, revision, line, people, approved, dataDate } of rows)
      lines.set(id, {
        revision,
        summary: Buffer.from(line),
        people: JSON.parse(people) as Reporter[],
        isApproved: Number(approved) === 1,
        dataDate,
      });
  }
  readOf.set(database, lines);
  return lines;
}
