import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** What stands on the pages of a PDF, read by another program; spaces of every kind and ends of lines are one space. */
export function readPdf(bytes: Buffer): {
  title: string;
  pages: { width: number; height: number; text: string }[];
  text: string;
} {
  const folder = mkdtempSync(join(tmpdir(), "report-"));
  try {
    writeFileSync(join(folder, "report.pdf"), bytes);
    const reader = join(import.meta.dirname, "pdfText.mjs");
    const read = JSON.parse(
      execFileSync(process.execPath, [reader, join(folder, "report.pdf")], { encoding: "utf8", maxBuffer: 1e8 }),
    ) as { title: string; pages: { width: number; height: number; text: string }[] };
    return { ...read, text: plain(read.pages.map(({ text }) => text).join(" ")) };
  } finally {
    rmSync(folder, { recursive: true });
  }
}
/** Spaces of every kind and ends of lines are one space. */
export const plain = (text: string): string => text.replace(/[\s\u00a0\u202f]+/g, " ");
/** Where lines are broken is the paper's affair. */
export const close = (text: string): string => plain(text).replaceAll(" ", "");
