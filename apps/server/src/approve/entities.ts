import { ApprovalEntity, ApprovalPlanEntity, BaselineEntity, BaselinePlanEntity } from "./kept/approveEntities.ts";
import { ReserveEntryEntity, WhatIfEntity, WhatIfListEntity } from "./kept/whatIfEntities.ts";

/** The tables of this room. */
export const APPROVE_ENTITIES = [
  ApprovalEntity,
  ApprovalPlanEntity,
  BaselineEntity,
  BaselinePlanEntity,
  WhatIfEntity,
  WhatIfListEntity,
  ReserveEntryEntity,
];
