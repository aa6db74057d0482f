import type { MendPlace } from "@chronometra/core";

/** The column of the plan's table in which something is mended, and the panel beside it that tells more. */
const CELLS: Readonly<Record<MendPlace, readonly [column: string, panel: string]>> = {
  links: ["after", "why"],
  length: ["length", "dates"],
  left: ["left", "dates"],
  began: ["began", "dates"],
  ended: ["ended", "dates"],
  wish: ["wish", "dates"],
  owner: ["owner", "dates"],
  people: ["people", "work"],
  progress: ["done", "credit"],
};

/** The address of the cell in which an activity is mended. */
export function mendAt(project: string, activity: string, mend: MendPlace): string {
  const [column, panel] = CELLS[mend];
  return `/projects/${project}/plan?at=${encodeURIComponent(activity)}&cell=${column}&about=${panel}`;
}
