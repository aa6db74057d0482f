import { qualityLimitsSchema, type QualityLimits } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import type { Me } from "@chronometra/contract";
import { inTransaction } from "../../shared/database.ts";
import { noteHouse } from "../../shared/noted/noteHouse.ts";
import { qualityFields } from "./limitFields.ts";
import { SettingEntity } from "../cycleEntities.ts";

/** The name of the setting that holds them. */
export const QUALITY_LIMITS = "qualityLimits";

export const readLimits = (text: string | undefined): QualityLimits =>
  text === undefined ? {} : qualityLimitsSchema.parse(JSON.parse(text));

/** The limits of the portfolio's checks where they differ from the published ones. */
export async function qualityLimitsOf(database: DataSource | EntityManager): Promise<QualityLimits> {
  return readLimits((await database.getRepository(SettingEntity).findOneBy({ name: QUALITY_LIMITS }))?.value);
}

export const setQualityLimits = (database: DataSource, me: Me, limits: QualityLimits): Promise<void> =>
  inTransaction(database, async (manager) => {
    const was = await qualityLimitsOf(manager);
    await manager
      .getRepository(SettingEntity)
      .upsert({ name: QUALITY_LIMITS, value: JSON.stringify(limits) }, ["name"]);
    const subject = "limits of the fourteen checks";
    await noteHouse(manager, me, { about: "quality", subject }, qualityFields(was), qualityFields(limits));
  });
