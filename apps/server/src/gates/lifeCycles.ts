import type { LifeCycle, LifeCycles, Me, WriteLifeCycle } from "@chronometra/contract";
import { stageAt } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { matterSettings } from "../matters/matterSettings.ts";
import { inTransaction, orTaken } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { isNews } from "../shared/seen.ts";
import { LifeCycleEntity } from "./gateEntities.ts";
import { holdsEverywhere, seenSql } from "../project/reach.ts";

const contentOf = ({ content }: { readonly content: string }): LifeCycle => JSON.parse(content) as LifeCycle;

const MOST_LETTERS = 36;
const taken = (kind: string): Failure => new Failure("conflict", `There is a life cycle for “${kind}” already.`);

interface Living {
  readonly cycle: string;
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly passed: string;
}

/** The life cycles by kind, with the projects that someone sees which live by each. */
export async function listLifeCycles(database: DataSource, me: Me): Promise<LifeCycles> {
  const seen = seenSql(me, "p");
  const [rows, living] = await Promise.all([
    database.getRepository(LifeCycleEntity).find({ order: { kind: "ASC" } }),
    database.query(
      `select l.life_cycle_id as cycle, p.id, p.code, json_value(p.head, '$.name') as name, l.passed
         from project_life l join project p on p.id = l.project_id where ${seen.sql} order by p.code`,
      [...seen.values],
    ) as Promise<Living[]>,
  ]);
  return {
    cycles: rows.map((row) => {
      const cycle = contentOf(row);
      return {
        id: row.id,
        cycle,
        projects: living
          .filter((each) => each.cycle === row.id)
          .map(({ id, code, name, passed }) => ({
            id,
            code,
            name,
            stage: stageAt(cycle.stages, JSON.parse(passed) as string[])?.name ?? null,
          })),
      };
    }),
    severities: (await matterSettings(database)).severities,
    mayEdit: holdsEverywhere(me, "controller"),
  };
}

/**
 * The life cycle of an id; `null` where there is none.
 * @param stays whether it is to stay as it is until the transaction ends
 */
export async function findLifeCycle(
  manager: DataSource | EntityManager,
  id: string,
  stays?: "stays",
): Promise<LifeCycle | null> {
  if (stays !== undefined) await manager.query("select id from life_cycle where id = ? lock in share mode", [id]);
  const row = await manager.getRepository(LifeCycleEntity).findOneBy({ id });
  return row === null ? null : contentOf(row);
}

/** Refuses to take away a stage at whose gate somebody waits, or a life cycle that projects live by. */
async function assertNobodyWaits(manager: EntityManager, id: string, next: LifeCycle | null): Promise<void> {
  const living = (await manager.query(
    `select p.code, (select concat_ws(char(10), e.act, e.stage_id, e.gate_name) from gate_event e
        where e.project_id = p.id order by e.id desc limit 1) as last
       from project_life l join project p on p.id = l.project_id where l.life_cycle_id = ? order by p.code`,
    [id],
  )) as { code: string; last: string | null }[];
  if (next === null && living.length > 0)
    throw new Failure(
      "invalid",
      `${living.map(({ code }) => code).join(", ")} use it; give them another life cycle first. Nothing was removed.`,
    );
  for (const { code, last } of living) {
    const [act, stage, gate] = last?.split("\n") ?? [];
    if (act === "asked" && !next!.stages.some((each) => each.id === stage))
      throw new Failure(
        "invalid",
        `“${gate}” of ${code} waits for a decision; its stage cannot be removed before. Nothing was changed.`,
      );
  }
}

/**
 * Writes a life cycle, or removes it.
 * @throws {Failure} conflict, where it does not say any more what the writer saw, or another is of that kind
 */
export async function writeLifeCycle(
  database: DataSource,
  me: Me,
  id: string,
  { was, value }: WriteLifeCycle,
): Promise<LifeCycles> {
  if (id.length > MOST_LETTERS) throw new Failure("invalid", `An id has at most ${MOST_LETTERS} letters.`);
  await inTransaction(database, async (manager) => {
    const cycles = manager.getRepository(LifeCycleEntity);
    const all = await cycles.find({ lock: { mode: "pessimistic_write" } });
    const row = all.find((each) => each.id === id);
    const now = row === undefined ? null : contentOf(row);
    if (!isNews(now, { was, value }, "This life cycle")) return;
    if (now !== null) await assertNobodyWaits(manager, id, value);
    if (value === null) return void (await cycles.delete({ id }));
    if (all.some((each) => each.id !== id && each.kind.toLowerCase() === value.kind.toLowerCase()))
      throw taken(value.kind);
    const content = { kind: value.kind, content: JSON.stringify(value) };
    if (row === undefined) await orTaken(cycles.insert({ id, ...content }), () => taken(value.kind));
    else await cycles.update({ id }, content);
  });
  return listLifeCycles(database, me);
}
