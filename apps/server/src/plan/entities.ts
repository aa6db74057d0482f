import { ChangeListEntity, PlanRowEntity } from "./planEntities.ts";
import { PresenceEntity } from "./presenceEntity.ts";

/** The tables of this room. */
export const PLAN_ENTITIES = [PlanRowEntity, ChangeListEntity, PresenceEntity];
