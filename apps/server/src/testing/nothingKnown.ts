import type { Known } from "../exchange/understand.ts";

/** A file is looked at in an empty installation, on a day of its own. */
export const NOTHING_KNOWN: Known = {
  headings: {},
  installation: { mayBring: true, accounts: [], periods: [], lifeCycles: [], projectFields: [] },
  people: [],
  calendars: [],
  house: { currency: "EUR", minorDigits: 2 },
  today: "2026-03-31",
};
