import { CHANCE_BANDS, type Matter, type MatterSettings } from "@chronometra/contract";
import { rankOf } from "../matterColumns.tsx";

/** Where a risk stands: its place on the scale of severity, from 0, and in the bands of probability, from 0. */
export interface Spot {
  readonly severity: number;
  readonly band: number;
}

/** A risk in the matrix, where it was when the last period was issued, and where the response is to bring it. */
export interface PlacedRisk {
  readonly risk: Matter;
  readonly at: Spot;
  readonly was: Spot | null;
  readonly then: Spot | null;
}

/** The band that a probability lies in, from 0. */
export const bandOf = (chance: number): number => CHANCE_BANDS.findLastIndex((least) => chance >= least);

const spotOf = (chance: number, severity: string | null, settings: MatterSettings): Spot | null => {
  const rank = rankOf(settings, severity);
  return rank === 0 ? null : { severity: rank - 1, band: bandOf(chance) };
};

const same = (a: Spot, b: Spot): boolean => a.severity === b.severity && a.band === b.band;

/** Open risks in the matrix, and those that have no place in it, since nobody has said how severe they are. */
export function placeRisks(
  risks: readonly Matter[],
  settings: MatterSettings,
): { readonly placed: readonly PlacedRisk[]; readonly unplaced: readonly Matter[] } {
  const placed: PlacedRisk[] = [];
  const unplaced: Matter[] = [];
  for (const risk of risks) {
    if (risk.kind !== "risk" || risk.state !== "open") continue;
    const at = spotOf(risk.chance ?? 0, risk.severity, settings);
    if (at === null) {
      unplaced.push(risk);
      continue;
    }
    const was = risk.before === null ? null : spotOf(risk.before.chance, risk.before.severity, settings);
    const then = risk.residual === null ? null : spotOf(risk.residual.chance, risk.residual.severity, settings);
    placed.push({
      risk,
      at,
      was: was === null || same(was, at) ? null : was,
      then: then === null || same(then, at) ? null : then,
    });
  }
  return { placed, unplaced };
}

/** How risks of one spot lie beside each other in a square: offsets from its middle, each within ±0.5. */
export function spreadIn(count: number): readonly (readonly [x: number, y: number])[] {
  const side = Math.ceil(Math.sqrt(count));
  return Array.from({ length: count }, (_, i) => {
    const [column, row] = [i % side, Math.floor(i / side)];
    const place = (k: number): number => (k + 0.5) / side - 0.5;
    return [place(column), place(row)] as const;
  });
}
