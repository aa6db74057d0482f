import {
  activitySchema,
  assignmentSchema,
  baselineSchema,
  calendarSchema,
  changeSchema,
  personSchema,
  rangeSchema,
  riskSchema,
} from "@chronometra/core";
import type { z } from "zod";
import { errorSchema } from "./errors.ts";
import { figuresSchema } from "./look.ts";
import { changeResultSchema, effectSchema } from "./plan.ts";
import { watchlistSchema, watchQuestionSchema } from "./watch.ts";
import { whatIfSchema } from "./whatIf.ts";
import { reportsEffectSchema } from "./collect.ts";
import { importViewSchema } from "./exchange.ts";
import { projectCycleSchema } from "./cycle.ts";
import { sharedEffectSchema } from "./resources.ts";

/** What several calls speak of, by the name that it has in a description of the interface: it is written there once. */
export const SHARED_SCHEMAS: Readonly<Record<string, z.ZodType>> = {
  Activity: activitySchema,
  Assignment: assignmentSchema,
  Baseline: baselineSchema,
  Calendar: calendarSchema,
  Change: changeSchema,
  ChangeResult: changeResultSchema,
  Effect: effectSchema,
  Failure: errorSchema,
  Figures: figuresSchema,
  ImportView: importViewSchema,
  Person: personSchema,
  ProjectCycle: projectCycleSchema,
  Range: rangeSchema,
  ReportsEffect: reportsEffectSchema,
  Risk: riskSchema,
  SharedEffect: sharedEffectSchema,
  Watchlist: watchlistSchema,
  WatchQuestion: watchQuestionSchema,
  WhatIf: whatIfSchema,
};
