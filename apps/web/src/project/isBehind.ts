import type { ProjectLine } from "@chronometra/contract";

type Standing = Pick<ProjectLine, "closed"> & {
  readonly summary: Pick<ProjectLine["summary"], "baseline" | "dataDate">;
};

/**
 * Whether a project is measured as of a day before one, as the period bar counts it: closed ones and those without an
 * approved plan take no part in the cycle.
 */
export const isBehind = ({ closed, summary }: Standing, date: string | null): boolean =>
  !closed && summary.baseline !== null && (summary.dataDate ?? "") < (date ?? "");
