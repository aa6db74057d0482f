import { DEFAULT_SEVERITIES, matterSettingsSchema, type BodyOf, type MatterSettings } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { SettingEntity } from "../cycle/cycleEntities.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { isNews } from "../shared/seen.ts";

const NAME = "matters";
const FIRST: MatterSettings = { severities: [...DEFAULT_SEVERITIES], fields: {} };

/** The scale of severity, and the own fields of registers. */
export async function matterSettings(manager: DataSource | EntityManager): Promise<MatterSettings> {
  const found = await manager.getRepository(SettingEntity).findOneBy({ name: NAME });
  return found === null ? FIRST : matterSettingsSchema.parse(JSON.parse(found.value));
}

/**
 * Writes them. A step of the scale that matters are at stays, whatever it is called.
 * @throws {Failure} conflict, where they were written by someone else meanwhile; invalid, where a step is in use
 */
export function writeMatterSettings(
  database: DataSource,
  { was, value }: BodyOf<"PUT /api/matters/settings">,
): Promise<MatterSettings> {
  return inTransaction(database, async (manager) => {
    await manager.query("select value from setting where name = ? for update", [NAME]);
    const now = await matterSettings(manager);
    if (!isNews(now, { was, value }, "What registers are kept by")) return now;
    const gone = now.severities.filter(({ id }) => value.severities.every((each) => each.id !== id));
    for (const { id, name } of gone) {
      const [{ count }] = (await manager.query(
        "select count(*) as count from matter where severity = ? and removed = 0",
        [id],
      )) as [{ count: string }];
      if (Number(count) > 0)
        throw new Failure("invalid", `${count} in the registers are “${name}”; give those another severity first.`);
    }
    await manager.getRepository(SettingEntity).upsert({ name: NAME, value: JSON.stringify(value) }, ["name"]);
    return value;
  });
}
