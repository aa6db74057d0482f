import type { Portfolio } from "@chronometra/contract";

/** A portfolio of the projects that are not closed: those that its sums, sentences and charts are of. */
export const openOnes = (portfolio: Portfolio): Portfolio => ({
  ...portfolio,
  projects: portfolio.projects.filter(({ closed }) => !closed),
});
