import type { Problem } from "@chronometra/core";
import { toast } from "../../../shared/messages/toast.ts";

const FAULTS_SHOWN = 4;

/** Says what stands against something that was to be done with rows; nothing of it was. */
export function tell(lines: readonly string[]): void {
  toast.error(
    `${lines.slice(0, FAULTS_SHOWN).join("\n")}${lines.length > FAULTS_SHOWN ? `\nand ${lines.length - FAULTS_SHOWN} more` : ""}\nNothing was changed.`,
    { style: { whiteSpace: "pre-line" } },
  );
}

export const inWords = (problems: readonly Problem[]): string[] =>
  problems.map(({ row, message }) => `${row}: ${message}`);
