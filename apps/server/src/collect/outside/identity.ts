import { createHash } from "node:crypto";
import type { FeedLine, LineKind } from "@chronometra/contract";

/** A line without anything of our own in it. */
export type Line = Omit<FeedLine, "reference"> & { readonly reference?: string | undefined };

const digestOf = (content: readonly unknown[]): string =>
  createHash("sha256").update(JSON.stringify(content)).digest("hex");

/** Files whose columns are named alike come from one system, however the files are called. */
export const systemOfFile = (headings: readonly string[]): string =>
  `file ${digestOf(
    headings
      .filter((heading) => heading !== "")
      .map((heading) => heading.toLowerCase().trim())
      .sort(),
  ).slice(0, 16)}`;

/** The system that lines of files were told apart by before their columns were looked at. */
export const ANY_FILE = "file";

/**
 * What makes a line the same line when it comes again: its system and reference, told apart within that by where it belongs and
 * its place among those that say the same; or all that it says, and how often, where it has no reference.
 */
export function identities(kind: LineKind, system: string, lines: readonly Line[]): string[] {
  const seen = new Map<string, number>();
  return lines.map((line) => {
    const { reference = "", project, activity = "", person = "", date } = line;
    const where = [project, activity, person, date];
    const content =
      reference !== ""
        ? [kind, system, "reference", reference, ...where]
        : [
            kind,
            system,
            "content",
            ...where,
            line.amount ?? line.minutes ?? null,
            line.category ?? "",
            line.note ?? "",
          ];
    const key = JSON.stringify(content);
    const place = (seen.get(key) ?? 0) + 1;
    seen.set(key, place);
    return digestOf([...content, place]);
  });
}

/** Under which a correction of a line waits; there is one at a time, the newest. */
export const correctionOf = (identity: string): string => digestOf([identity, "correction"]);

type Measured = {
  readonly amount?: number | null | undefined;
  readonly minutes?: number | null | undefined;
  readonly category?: string | undefined;
};

/** Whether two tellings of a line come to the same: how much, and of which category. */
export const saysTheSame = (a: Measured, b: Measured): boolean =>
  (a.amount ?? null) === (b.amount ?? null) &&
  (a.minutes ?? null) === (b.minutes ?? null) &&
  (a.category ?? "") === (b.category ?? "");
