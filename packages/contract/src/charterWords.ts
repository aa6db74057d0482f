/** How a project stands as such, beside being closed. */
export const PROJECT_STATES = ["proposed", "running", "onHold"] as const;
export type ProjectState = (typeof PROJECT_STATES)[number];

/** The states of a project in words. */
export const PROJECT_STATE_WORDS: Readonly<Record<ProjectState, string>> = {
  proposed: "proposed",
  running: "running",
  onHold: "on hold",
};

/** What a project may have words of its own for: states of its activities, and priorities. */
export const WORDED = ["notStarted", "inProgress", "complete", "parked", "high", "middle", "low"] as const;
export type Worded = (typeof WORDED)[number];

/** What they are called where a project calls them nothing else, and wherever several projects stand together. */
export const HOUSE_WORDS: Readonly<Record<Worded, string>> = {
  notStarted: "not started",
  inProgress: "under way",
  complete: "finished",
  parked: "parked",
  high: "high",
  middle: "middle",
  low: "low",
};

/** A project's own words. */
export type OwnWords = { readonly [of in Worded]?: string };

/** What a project calls a state or a priority. */
export const wordFor = (words: OwnWords, of: Worded): string => words[of] ?? HOUSE_WORDS[of];
