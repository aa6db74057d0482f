import type { AskedGate, Me } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { lifeOf, saidOf } from "./gateLife.ts";
import { holdsIn, seenSql } from "../project/reach.ts";

/** Gates that wait for a decision, in projects that someone sees and that are not closed, the longest waiting first. */
export async function askedGates(database: DataSource, me: Me): Promise<AskedGate[]> {
  const seen = seenSql(me, "p");
  const rows = (await database.query(
    `select p.id as project, p.programme_id as programmeId, p.code, json_value(p.head, '$.name') as name, e.stage_id as stage, e.gate_name as gate,
        e.account_id as askedBy, e.at, e.word
       from gate_event e join project p on p.id = e.project_id
      where e.act = 'asked' and e.id = (select max(l.id) from gate_event l where l.project_id = e.project_id)
        and not exists (select 1 from project_closing c where c.project_id = p.id) and ${seen.sql}
      order by e.id`,
    [...seen.values],
  )) as (Pick<AskedGate, "project" | "code" | "name" | "stage" | "gate" | "word"> & {
    askedBy: string;
    at: Date;
    programmeId: string | null;
  })[];
  const names = await accountNames(database);
  return Promise.all(
    rows.map(async ({ askedBy, at, programmeId, ...row }) => {
      const life = await lifeOf(database, row.project);
      const decider = life === null ? null : saidOf(life, row.stage).decider;
      return {
        ...row,
        by: names.get(askedBy) ?? "",
        at: at.toISOString(),
        decider: decider === null ? null : (names.get(decider) ?? ""),
        mayDecide: holdsIn(me, "approver", programmeId) && askedBy !== me.id && (decider === null || decider === me.id),
      };
    }),
  );
}
