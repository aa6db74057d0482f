/** How a manager rates a project. */
export const RATINGS = ["well", "care", "trouble"] as const;
