import { divRound, mulDivRound, ratio } from "../budget/exact.ts";

/** What is added up from activity to portfolio, in minor units. */
export interface Sums {
  readonly bac: number;
  readonly pv: number;
  readonly ev: number;
  readonly ac: number;
  /** Estimate at completion from the remaining work itself. */
  readonly eacBottomUp: number;
}

/** The figures of one activity, branch, project or portfolio. Amounts in minor units; `null` is "not defined". */
export interface Figures {
  readonly bac: number;
  readonly pv: number;
  readonly ev: number;
  readonly ac: number;
  readonly sv: number;
  readonly cv: number;
  readonly spi: number | null;
  readonly cpi: number | null;
  readonly percentComplete: number | null;
  readonly percentSpent: number | null;
  readonly eac: number | null;
  readonly etc: number | null;
  readonly vac: number | null;
  readonly eacRemaining: number;
  readonly eacCpiSpi: number | null;
  readonly eacBottomUp: number;
  readonly tcpiBac: number | null;
  readonly tcpiEac: number | null;
}

export const NO_SUMS: Sums = { bac: 0, pv: 0, ev: 0, ac: 0, eacBottomUp: 0 };

/** The sum of two. */
export const addSums = (a: Sums, b: Sums): Sums => ({
  bac: a.bac + b.bac,
  pv: a.pv + b.pv,
  ev: a.ev + b.ev,
  ac: a.ac + b.ac,
  eacBottomUp: a.eacBottomUp + b.eacBottomUp,
});

/** BAC / CPI, formed as BAC x AC / EV; `null` where CPI is not defined or 0. */
function estimateByCpi({ bac, ev, ac }: Sums): number | null {
  return ac === 0 || ev === 0 ? null : mulDivRound(bac, ac, ev);
}

/** AC + (BAC - EV) / (CPI x SPI), over one denominator; `null` where either index is not defined or 0. */
function estimateByCpiAndSpi({ bac, pv, ev, ac }: Sums): number | null {
  if (ac === 0 || ev === 0 || pv === 0) return null;
  const earnedTwice = BigInt(ev) * BigInt(ev);
  return divRound(BigInt(ac) * earnedTwice + BigInt(bac - ev) * BigInt(ac) * BigInt(pv), earnedTwice);
}

/**
 * All figures from the sums: ratios and forecasts are formed here, never averaged.
 * Formulas as in the PMI Standard for Earned Value Management; see calculations.md section 4.
 */
export function figuresOf(sums: Sums): Figures {
  const { bac, pv, ev, ac } = sums;
  const eac = estimateByCpi(sums);
  return {
    bac,
    pv,
    ev,
    ac,
    sv: ev - pv,
    cv: ev - ac,
    spi: ratio(ev, pv),
    cpi: ratio(ev, ac),
    percentComplete: ratio(ev, bac),
    percentSpent: ratio(ac, bac),
    eac,
    etc: eac === null ? null : eac - ac,
    vac: eac === null ? null : bac - eac,
    eacRemaining: ac + bac - ev,
    eacCpiSpi: estimateByCpiAndSpi(sums),
    eacBottomUp: sums.eacBottomUp,
    tcpiBac: ratio(bac - ev, bac - ac),
    tcpiEac: eac === null ? null : ratio(bac - ev, eac - ac),
  };
}
