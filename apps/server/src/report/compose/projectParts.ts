import type { ReportBlock, ReportSection } from "@chronometra/contract";
import type { Gathered } from "../gather.ts";
import { load, trust } from "./parts/ahead.ts";
import { deadlines, milestones } from "./parts/dates.ts";
import { decisions, requests } from "./parts/decisions.ts";
import { drift } from "./parts/drift.ts";
import { curves, figures } from "./parts/figures.ts";
import { done, next } from "./parts/work.ts";

type Parts = Readonly<Record<Exclude<ReportSection, "ratings">, (gathered: Gathered) => ReportBlock[]>>;

/** What each part of a project's report consists of. */
export const PROJECT_PARTS: Parts = {
  figures,
  curves,
  milestones,
  deadlines,
  drift,
  done,
  next,
  decisions,
  requests,
  load,
  trust,
};
