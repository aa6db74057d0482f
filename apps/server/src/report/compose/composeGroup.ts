import {
  GROUP_SECTION_WORDS,
  type DraftAspect,
  type GroupSection,
  type ReportBlock,
  type ReportContent,
  type ReportPart,
} from "@chronometra/contract";
import {
  ASPECT_WORDS,
  ASPECTS,
  countWords,
  DEADLINE_WORDS,
  RATING_WORDS,
  RATINGS,
  type Aspect,
  type Exchange,
  type Suggested,
} from "@chronometra/core";
import { saidIn } from "../said.ts";
import { RATING_TONES, table, textCell } from "./cells.ts";
import { saidBlocks } from "./composeProject.ts";
import { groupFigures } from "./groupFigures.ts";
import type { GroupMember } from "./groupMember.ts";
import { partWithin } from "./partIds.ts";

const countProjects = (count: number): string => countWords(count, "project", "projects");

const NAMED = 5;
const namesOf = (members: readonly GroupMember[]): string => {
  const codes = members.map(({ project }) => project.code);
  return codes.length <= NAMED
    ? codes.join(", ")
    : `${codes.slice(0, NAMED).join(", ")} and ${codes.length - NAMED} more`;
};

/** Members by how their reports rate a side, the worst first. */
function byRating(members: readonly GroupMember[], aspect: Aspect) {
  return RATINGS.toReversed().map((rating) => ({
    rating,
    those: members.filter(({ content }) => saidIn(content)[aspect]?.rating === rating),
  }));
}

/** How a group is to be rated: on each side as the worst of its projects. */
export function suggestForGroup(members: readonly GroupMember[]): Readonly<Record<Aspect, Suggested>> {
  const of = (aspect: Aspect): Suggested => {
    const worst = byRating(members, aspect).find(({ those }) => those.length > 0);
    if (worst === undefined) return { rating: "well", rules: ["no project has issued its report"] };
    const count = members.filter(({ content }) => content !== null).length;
    return {
      rating: worst.rating,
      rules: [`as the worst of its projects: ${worst.those.length} of ${count}, ${namesOf(worst.those)}`],
    };
  };
  return Object.fromEntries(ASPECTS.map((aspect) => [aspect, of(aspect)])) as Record<Aspect, Suggested>;
}

/** With what the text on each side of a group begins. */
export function beginForGroup(members: readonly GroupMember[]): Readonly<Record<Aspect, string>> {
  const missing = members.filter(({ content }) => content === null);
  const of = (aspect: Aspect): string => {
    const lines = byRating(members, aspect).flatMap(({ rating, those }) =>
      those.length === 0
        ? []
        : [`${countProjects(those.length)} ${ratedWords(rating, those.length)}: ${namesOf(those)}.`],
    );
    if (aspect === "overall" && missing.length > 0)
      lines.push(`${countProjects(missing.length)} without a report of this period: ${namesOf(missing)}.`);
    return lines.join(" ");
  };
  return Object.fromEntries(ASPECTS.map((aspect) => [aspect, of(aspect)])) as Record<Aspect, string>;
}

const RATED_WORDS = {
  well: ["goes well", "go well"],
  care: ["needs care", "need care"],
  trouble: ["is in trouble", "are in trouble"],
} as const;
const ratedWords = (rating: (typeof RATINGS)[number], count: number): string =>
  RATED_WORDS[rating][count === 1 ? 0 : 1];

type FigureItem = Extract<ReportBlock, { is: "figures" }>["items"][number];

const figureOf = (content: ReportContent, name: string): FigureItem | undefined =>
  content.parts
    .flatMap(({ blocks }) => blocks)
    .flatMap((block) => (block.is === "figures" ? block.items : []))
    .find((item) => item.name === name);

const GLANCED: readonly Aspect[] = ["overall", ...ASPECTS.filter((aspect) => aspect !== "overall")];

/** The projects of a group at a glance, a line each: ratings and the dates. */
function glance(members: readonly GroupMember[]): ReportBlock {
  const rows = members.map(({ project, content }) => {
    const said = saidIn(content);
    const overall = said.overall?.rating;
    return {
      cells: [
        textCell(`${project.code} ${project.head.name}`),
        ...GLANCED.map((aspect) =>
          textCell(
            content === null ? (aspect === "overall" ? "no report" : "") : RATING_WORDS[said[aspect]?.rating ?? "well"],
          ),
        ),
        content === null ? textCell("") : (figureOf(content, "Finish")?.value ?? textCell("–")),
        content === null ? textCell("") : (figureOf(content, "Drift of the finish")?.value ?? textCell("–")),
      ],
      ...(overall === undefined || overall === "well" ? {} : { tone: RATING_TONES[overall] }),
      link: content === null ? `/projects/${project.id}/report` : `/projects/${project.id}/report/${content.period}`,
    };
  });
  return table(
    ["Project", ...GLANCED.map((aspect) => ASPECT_WORDS[aspect]), "#Finish", "#Drift"],
    rows,
    "No project takes part.",
  );
}

/** The worst news of a group: projects in trouble in their managers' words, promises that are not kept. */
function worstNews(members: readonly GroupMember[]): ReportBlock {
  const items = members.flatMap(({ project, content }) => {
    const { overall } = saidIn(content);
    const link = `/projects/${project.id}/report/${content?.period ?? ""}`;
    const trouble =
      overall?.rating === "trouble"
        ? [{ text: `${project.code} ${RATING_WORDS.trouble}: ${overall.text}`, tone: "adverse" as const, link }]
        : [];
    const broken = (content?.parts ?? [])
      .filter(({ id }) => id === "deadlines")
      .flatMap(({ blocks }) => blocks)
      .flatMap((block) => (block.is === "table" ? block.rows : []))
      // What was kept late is no news any more.
      .filter(({ cells, tone }) => tone === "adverse" && !cells[3]!.text.startsWith(DEADLINE_WORDS.metLate))
      .map(({ cells }) => ({
        text: `${project.code}: promise of ${cells[0]!.text} for ${cells[1]!.text}, ${cells[3]!.text}`,
        tone: "adverse" as const,
        link,
      }));
    return [...trouble, ...broken];
  });
  return {
    is: "lines",
    items,
    none: "No project is in trouble, and every promise that was not due yet is kept as things stand.",
  };
}

/** The parts of a project's report as they stand within that of its group, under its name. */
const within = ({ project, content }: GroupMember): ReportPart[] =>
  content === null
    ? []
    : [
        { id: partWithin(project.code, "name"), title: `${project.code} ${content.title}`, level: 1, blocks: [] },
        ...content.parts.map((part) => ({ ...part, id: partWithin(project.code, part.id), level: 2 })),
      ];

interface Group {
  readonly organisation: string;
  readonly name: string;
  readonly period: { readonly number: number; readonly dataDate: string };
  readonly exchange: Exchange | null;
  /** The report before; `null` where there was none. */
  readonly last: ReportContent | null;
  /** Which parts it has, in their order. */
  readonly sections: readonly GroupSection[];
}

/** A group's report: its projects on one page, the worst news, what is said of the whole, then project by project. */
export function composeGroup(
  { organisation, name, period, exchange, last, sections }: Group,
  members: readonly GroupMember[],
  aspects: readonly DraftAspect[],
): ReportContent {
  const own = (id: Exclude<GroupSection, "projects">, blocks: readonly ReportBlock[]): ReportPart[] => [
    { id, title: GROUP_SECTION_WORDS[id], level: 1, blocks: [...blocks] },
  ];
  const parts: Readonly<Record<GroupSection, () => ReportPart[]>> = {
    glance: () => own("glance", [glance(members)]),
    news: () => own("news", [worstNews(members)]),
    said: () => own("said", saidBlocks(aspects)),
    sums: () => own("sums", groupFigures({ members, exchange, dataDate: period.dataDate, last })),
    projects: () => members.flatMap(within),
  };
  return {
    format: 1,
    of: "group",
    organisation,
    title: name,
    under: countProjects(members.length),
    manager: "",
    period: period.number,
    dataDate: period.dataDate,
    parts: sections.flatMap((section) => parts[section]()),
  };
}
