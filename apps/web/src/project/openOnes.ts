import type { Portfolio } from "@chronometra/contract";

const onesOf = (portfolio: Portfolio, isClosed: boolean): Portfolio => ({
  ...portfolio,
  projects: portfolio.projects.filter(({ closed }) => closed === isClosed),
});

/** A portfolio of the projects that are not closed: those that its sums, sentences and charts are of. */
export const openOnes = (portfolio: Portfolio): Portfolio => onesOf(portfolio, false);

/** The others, which no sum of those counts. */
export const closedOnes = (portfolio: Portfolio): Portfolio => onesOf(portfolio, true);
