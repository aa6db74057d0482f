import type { OtherProject, Register, RegisterRates } from "@chronometra/contract";
import { countWords } from "../../shared/words/words.ts";

/** What every part of the register is given. */
export interface RegisterPartProps {
  readonly register: Register;
  /** What an hour costs; `null` of whoever may not know it. */
  readonly rates: RegisterRates | null;
}

/** In how many projects a row is, and in how many of them it says something else. */
export function usedWords(projects: readonly Pick<OtherProject, "same">[]): string {
  if (projects.length === 0) return "";
  const differs = projects.filter(({ same }) => !same).length;
  return `${countWords(projects.length, "project", "projects")}${differs === 0 ? "" : `, differs in ${differs}`}`;
}
