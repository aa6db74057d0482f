import { SECTION_WORDS, type ReportContent, type Summary } from "@chronometra/contract";
import type { IssuedPeriodEntity } from "../../cycle/cycleEntities.ts";
import type { ProjectEntity } from "../../project/projectEntity.ts";
import { deadlines } from "./parts/dates.ts";
import { figures } from "./parts/figures.ts";

interface Former {
  readonly period: Pick<IssuedPeriodEntity, "number" | "dataDate" | "summary">;
  readonly project: ProjectEntity;
  readonly organisation: string;
  readonly manager: string;
}

/** What is known of a period that was issued before reports were kept: figures and promises, as they were frozen. */
export function formerContent({ period, project, organisation, manager }: Former): ReportContent {
  const summary = JSON.parse(period.summary) as Summary;
  const known = { project, before: null, of: { summary, chains: {} } };
  return {
    format: 1,
    of: "project",
    organisation,
    title: project.head.name,
    under: project.code,
    manager,
    period: period.number,
    dataDate: period.dataDate,
    parts: [
      {
        id: "before",
        title: "Issued before reports were kept",
        level: 1,
        blocks: [
          {
            is: "lines",
            items: [],
            none: "Of this period the figures were frozen, and no report. Names are those that the project has now.",
          },
        ],
      },
      { id: "figures", title: SECTION_WORDS.figures, level: 1, blocks: figures(known) },
      { id: "deadlines", title: SECTION_WORDS.deadlines, level: 1, blocks: deadlines(known) },
    ],
  };
}
