import type { ProjectLook } from "@chronometra/contract";

/** Between which amounts the cost may come to stand when the plan finishes. */
export interface ForecastRange {
  readonly finish: string;
  readonly least: number;
  readonly most: number;
}

/** The least and the most of the estimates at completion, at the plan's finish; `null` where none can be formed. */
export function forecastRange({ figures, finish, dataDate }: ProjectLook["summary"]): ForecastRange | null {
  if (figures === null || finish === null || dataDate === null || finish <= dataDate) return null;
  const estimates = [figures.eac, figures.eacRemaining, figures.eacCpiSpi, figures.eacBottomUp].filter(
    (each) => each !== null,
  );
  return { finish, least: Math.min(...estimates), most: Math.max(...estimates) };
}
