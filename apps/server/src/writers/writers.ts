import type { Writer } from "../plan/held/writer.ts";
import { keptActivities } from "./activities/keptActivities.ts";
import { keptFigures } from "./keptFigures.ts";
import { keptLoad } from "./keptLoad.ts";
import { keptNames } from "./keptNames.ts";
import { keptPlanned } from "./keptPlanned.ts";
import { keptRisks } from "./keptRisks.ts";
import { keptSpent } from "./keptSpent.ts";

/** All that is kept beside plans. */
export const WRITERS: readonly Writer[] = [
  keptFigures,
  keptActivities,
  keptSpent,
  keptNames,
  keptRisks,
  keptLoad,
  keptPlanned,
];
