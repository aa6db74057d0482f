import type { DraftAspect, ReportBlock, ReportContent, ReportSection } from "@chronometra/contract";
import { SECTION_WORDS } from "@chronometra/contract";
import { ASPECT_WORDS, RATING_WORDS } from "@chronometra/core";
import type { Gathered } from "../gather.ts";
import { table, textCell } from "./cells.ts";
import { PROJECT_PARTS } from "./projectParts.ts";

/** What is said on each side, as it stands in a report: rating, why, and text. */
export function saidBlocks(aspects: readonly DraftAspect[]): ReportBlock[] {
  return aspects.map(({ aspect, rating, suggested, rules, reason, text, begun }) => {
    const stands = rating ?? suggested;
    return {
      is: "said",
      aspect,
      name: ASPECT_WORDS[aspect],
      rating: stands,
      words: RATING_WORDS[stands],
      why:
        stands === suggested
          ? rules.join("; ")
          : `The limits suggest "${RATING_WORDS[suggested]}" (${rules.join("; ")}). ${reason}`,
      text: text ?? begun,
    };
  });
}

/** How broken limits were explained. */
function explanations({ cycle, facts }: Gathered): ReportBlock[] {
  const told = new Map(cycle.broken.map(({ rule, explanation }) => [rule, explanation]));
  const rows = facts.broken.map(({ rule, words }) => {
    const explanation = told.get(rule) ?? null;
    return {
      cells: [
        textCell(words),
        textCell(explanation === null ? "not explained" : `${explanation.words} (${explanation.by})`),
      ],
      tone: explanation === null ? ("undecided" as const) : ("adverse" as const),
    };
  });
  return rows.length === 0 ? [] : [table(["Limit that is broken", "How it is explained"], rows, "")];
}

/** A project's report as it would be issued now. */
export function composeProject(
  gathered: Gathered,
  aspects: readonly DraftAspect[],
  sections: readonly ReportSection[],
  group: string | null,
): ReportContent {
  const { organisation, project, period, plan, cycle } = gathered;
  const blocksOf = (section: ReportSection): ReportBlock[] =>
    section === "ratings" ? [...saidBlocks(aspects), ...explanations(gathered)] : PROJECT_PARTS[section](gathered);
  return {
    format: 1,
    of: "project",
    organisation,
    title: plan.project.name,
    under: group === null ? project.code : `${project.code} · ${group}`,
    manager: cycle.manager,
    period: period.number,
    dataDate: period.dataDate,
    parts: sections.map((id) => ({ id, title: SECTION_WORDS[id], level: 1, blocks: blocksOf(id) })),
  };
}
