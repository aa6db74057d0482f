import type { Me } from "@chronometra/contract";
import { DEFAULT_THRESHOLDS, limitsIn, thresholdsSchema, type Thresholds } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { ProgrammeEntity } from "../../project/projectEntity.ts";
import { inTransaction } from "../../shared/database.ts";
import { orNotFound } from "../../shared/failure.ts";
import { noteHouse } from "../../shared/noted/noteHouse.ts";
import { SettingEntity } from "../cycleEntities.ts";
import { limitFields } from "./limitFields.ts";

const THRESHOLDS = "thresholds";

const readThresholds = (text: string): Thresholds => thresholdsSchema.parse(JSON.parse(text));

/** The limits of the house. */
async function houseThresholds(manager: DataSource | EntityManager): Promise<Thresholds> {
  const setting = await manager.getRepository(SettingEntity).findOneBy({ name: THRESHOLDS });
  return setting === null ? DEFAULT_THRESHOLDS : readThresholds(setting.value);
}

/** The limits beyond which a project is to be explained, by the group that it lies in. */
export async function thresholdsOf(
  database: DataSource | EntityManager,
): Promise<(programmeId: string | null) => Thresholds> {
  const [house, programmes] = await Promise.all([
    houseThresholds(database),
    database.getRepository(ProgrammeEntity).find(),
  ]);
  const groups = programmes.map(({ id, parentId, thresholds }) => ({
    ...{ id, parent: parentId },
    thresholds: thresholds === null ? null : readThresholds(thresholds),
  }));
  return (programmeId) => limitsIn(groups, house, programmeId);
}

/** Writes limits of a group's own; `null` takes them from above. */
export const setGroupThresholds = (
  database: DataSource,
  me: Me,
  id: string,
  thresholds: Thresholds | null,
): Promise<void> =>
  inTransaction(database, async (manager) => {
    const programmes = manager.getRepository(ProgrammeEntity);
    const group = orNotFound(await programmes.findOneBy({ id }), "group of that address");
    const was = group.thresholds === null ? null : readThresholds(group.thresholds);
    await programmes.update({ id }, { thresholds: thresholds === null ? null : JSON.stringify(thresholds) });
    const subject = `limits of ${group.name}`;
    await noteHouse(manager, me, { about: "limits", subject }, limitFields(was), limitFields(thresholds));
  });

/** Writes the limits of the house. */
export const setThresholds = (database: DataSource, me: Me, thresholds: Thresholds): Promise<void> =>
  inTransaction(database, async (manager) => {
    const was = await houseThresholds(manager);
    await manager
      .getRepository(SettingEntity)
      .upsert({ name: THRESHOLDS, value: JSON.stringify(thresholds) }, ["name"]);
    const subject = "limits of the house";
    await noteHouse(manager, me, { about: "limits", subject }, limitFields(was), limitFields(thresholds));
  });
