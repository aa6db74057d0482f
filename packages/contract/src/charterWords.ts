/** How a project stands as such, beside being closed. */
export const PROJECT_STATES = ["proposed", "running", "onHold"] as const;
export type ProjectState = (typeof PROJECT_STATES)[number];

/** The states of a project in words. */
export const PROJECT_STATE_WORDS: Readonly<Record<ProjectState, string>> = {
  proposed: "proposed",
  running: "running",
  onHold: "on hold",
};
