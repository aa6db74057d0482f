import { qualityLimitsSchema, type QualityLimits } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { SettingEntity } from "./cycleEntities.ts";

/** The name of the setting that holds them. */
export const QUALITY_LIMITS = "qualityLimits";

export const readLimits = (text: string | undefined): QualityLimits =>
  text === undefined ? {} : qualityLimitsSchema.parse(JSON.parse(text));

/** The limits of the portfolio's checks where they differ from the published ones. */
export async function qualityLimitsOf(database: DataSource | EntityManager): Promise<QualityLimits> {
  return readLimits((await database.getRepository(SettingEntity).findOneBy({ name: QUALITY_LIMITS }))?.value);
}

export async function setQualityLimits(database: DataSource, limits: QualityLimits): Promise<void> {
  await database.getRepository(SettingEntity).upsert({ name: QUALITY_LIMITS, value: JSON.stringify(limits) }, ["name"]);
}
