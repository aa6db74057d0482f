import { ClockEntity, DeskLookEntity, WeekSheetEntity } from "./kept/deskEntities.ts";
import { OutsideFileEntity, OutsideLineEntity, OutsideMatchEntity } from "./outside/outsideEntities.ts";
import { ReportEntity } from "./kept/reportEntity.ts";

/** The tables of this room. */
export const COLLECT_ENTITIES = [
  ReportEntity,
  ClockEntity,
  DeskLookEntity,
  WeekSheetEntity,
  OutsideFileEntity,
  OutsideLineEntity,
  OutsideMatchEntity,
];
