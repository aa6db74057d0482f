import { minorUnits, minus, NO_MONEY, plus, type MinorUnits } from "../budget/money.ts";
import { divRound, mulDivRound, ratio } from "../budget/exact.ts";

/** What is added up from activity to portfolio, in minor units. */
export interface Sums {
  readonly bac: MinorUnits;
  readonly pv: MinorUnits;
  readonly ev: MinorUnits;
  readonly ac: MinorUnits;
  /** Estimate at completion from the remaining work itself. */
  readonly eacBottomUp: MinorUnits;
}

/** The figures of one activity, branch, project or portfolio. Amounts in minor units; `null` is "not defined". */
export interface Figures {
  readonly bac: MinorUnits;
  readonly pv: MinorUnits;
  readonly ev: MinorUnits;
  readonly ac: MinorUnits;
  readonly sv: MinorUnits;
  readonly cv: MinorUnits;
  readonly spi: number | null;
  readonly cpi: number | null;
  readonly percentComplete: number | null;
  readonly percentSpent: number | null;
  readonly eac: MinorUnits | null;
  readonly etc: MinorUnits | null;
  readonly vac: MinorUnits | null;
  readonly eacRemaining: MinorUnits;
  readonly eacCpiSpi: MinorUnits | null;
  readonly eacBottomUp: MinorUnits;
  readonly tcpiBac: number | null;
  readonly tcpiEac: number | null;
}

export const NO_SUMS: Sums = {
  bac: NO_MONEY,
  pv: NO_MONEY,
  ev: NO_MONEY,
  ac: NO_MONEY,
  eacBottomUp: NO_MONEY,
};

/** The sum of two. */
export const addSums = (a: Sums, b: Sums): Sums => ({
  bac: plus(a.bac, b.bac),
  pv: plus(a.pv, b.pv),
  ev: plus(a.ev, b.ev),
  ac: plus(a.ac, b.ac),
  eacBottomUp: plus(a.eacBottomUp, b.eacBottomUp),
});

/** BAC / CPI, formed as BAC x AC / EV; `null` where CPI is not defined or 0. */
function estimateByCpi({ bac, ev, ac }: Sums): MinorUnits | null {
  return ac === 0 || ev === 0 ? null : minorUnits(mulDivRound(bac, ac, ev));
}

/** AC + (BAC - EV) / (CPI x SPI), over one denominator; `null` where either index is not defined or 0. */
function estimateByCpiAndSpi({ bac, pv, ev, ac }: Sums): MinorUnits | null {
  if (ac === 0 || ev === 0 || pv === 0) return null;
  const earnedTwice = BigInt(ev) * BigInt(ev);
  return minorUnits(divRound(BigInt(ac) * earnedTwice + BigInt(bac - ev) * BigInt(ac) * BigInt(pv), earnedTwice));
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
    sv: minus(ev, pv),
    cv: minus(ev, ac),
    spi: ratio(ev, pv),
    cpi: ratio(ev, ac),
    percentComplete: ratio(ev, bac),
    percentSpent: ratio(ac, bac),
    eac,
    etc: eac === null ? null : minus(eac, ac),
    vac: eac === null ? null : minus(bac, eac),
    eacRemaining: minus(plus(ac, bac), ev),
    eacCpiSpi: estimateByCpiAndSpi(sums),
    eacBottomUp: sums.eacBottomUp,
    tcpiBac: ratio(bac - ev, bac - ac),
    tcpiEac: eac === null ? null : ratio(bac - ev, eac - ac),
  };
}
