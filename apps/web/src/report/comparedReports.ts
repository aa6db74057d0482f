import type { ReportBlock, ReportContent } from "@chronometra/contract";
import { ASPECT_WORDS } from "@chronometra/core";

/** Something that one of two reports says, or both. */
export interface ComparedLine {
  readonly group: string;
  readonly name: string;
  readonly was: string;
  readonly now: string;
}

const blocksOf = (content: ReportContent): (ReportBlock & { readonly part: string })[] =>
  content.parts
    .filter(({ id }) => !id.includes("-"))
    .flatMap(({ title, blocks }) => blocks.map((block) => ({ ...block, part: title })));

/** What a report says line by line: ratings, figures, and rows of its tables by their first cell. */
function linesOf(content: ReportContent): Map<string, Omit<ComparedLine, "was" | "now"> & { text: string }> {
  const lines = new Map<string, Omit<ComparedLine, "was" | "now"> & { text: string }>();
  const add = (group: string, name: string, text: string): void => {
    lines.set(`${group}\0${name}`, { group, name, text });
  };
  for (const block of blocksOf(content)) {
    if (block.is === "said") add(block.part, ASPECT_WORDS[block.aspect], `${block.words}. ${block.text}`);
    else if (block.is === "figures") for (const { name, value } of block.items) add(block.part, name, value.text);
    else if (block.is === "table" && (block.part === "Milestones" || block.part === "Promises"))
      for (const { cells } of block.rows)
        add(
          block.part,
          cells[0]!.text,
          cells
            .slice(1, 4)
            .map(({ text }) => text)
            .join(", "),
        );
  }
  return lines;
}

/** Two reports line by line, in the order of the later one; what only the earlier one has stands behind. */
export function comparedReports(before: ReportContent, after: ReportContent): ComparedLine[] {
  const [was, now] = [linesOf(before), linesOf(after)];
  return [...new Set([...now.keys(), ...was.keys()])].map((key) => {
    const { group, name } = (now.get(key) ?? was.get(key))!;
    return { group, name, was: was.get(key)?.text ?? "", now: now.get(key)?.text ?? "" };
  });
}
