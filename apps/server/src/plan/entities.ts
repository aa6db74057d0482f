import { ChangeListEntity, PlanRowEntity } from "./stored/planEntities.ts";
import { PresenceEntity } from "./news/presenceEntity.ts";

/** The tables of this room. */
export const PLAN_ENTITIES = [PlanRowEntity, ChangeListEntity, PresenceEntity];
