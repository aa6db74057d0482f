/** What of the house is noted when it changes. */
export const NOTED = ["account", "settings", "limits", "quality", "exchange", "register", "system", "project"] as const;
export type Noted = (typeof NOTED)[number];

export const NOTED_WORDS: Readonly<Record<Noted, string>> = {
  account: "accounts",
  settings: "people’s own settings",
  limits: "limits",
  quality: "limits of checks",
  exchange: "exchange rates",
  register: "register of calendars, people, teams and categories",
  system: "other systems",
  project: "projects brought in with their history",
};

/** What limits are called, and what they are in. */
export const LIMIT_WORDS = [
  ["spiBelow", "SPI below", ""],
  ["cpiBelow", "CPI below", ""],
  ["spitBelow", "SPI(t) of earned schedule below", ""],
  ["driftOver", "Finish late by more than", "d"],
  ["movedOver", "Finish moved since the last period by more than", "d"],
  ["overrunOver", "Estimate at completion over the budget by more than", "%"],
] as const;
