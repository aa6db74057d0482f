import "../../../shared/charts/withoutEval.ts";
import { branchesSchema, type Branches } from "@chronometra/core";

/** The clipboard's type for whole rows; what it holds is only a mark. */
export const BRANCHES_TYPE = "application/x-chronometra-rows";
const KEPT_AS = "chronometra.rows";

/** Keeps rows that were copied where every page of this browser finds them. */
export const keepBranches = (mark: string, cut: boolean, branches: Branches): void =>
  localStorage.setItem(KEPT_AS, JSON.stringify({ mark, cut, branches }));

/** The rows that carry a mark; `null` where others were copied since. Cut rows keep their ids once only. */
export function keptBranches(mark: string): { readonly cut: boolean; readonly branches: Branches } | null {
  const kept = JSON.parse(localStorage.getItem(KEPT_AS) ?? "null") as {
    mark?: string;
    cut?: boolean;
    branches?: unknown;
  } | null;
  if (kept === null || kept.mark !== mark) return null;
  const branches = branchesSchema.safeParse(kept.branches);
  return branches.success ? { cut: kept.cut === true, branches: branches.data } : null;
}
