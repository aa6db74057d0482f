/** Parts of a report by name, in the order in which they stand where nobody chose another. */
export const REPORT_SECTIONS = [
  "ratings",
  "figures",
  "curves",
  "milestones",
  "deadlines",
  "drift",
  "done",
  "next",
  "decisions",
  "requests",
  "load",
  "trust",
] as const;
export type ReportSection = (typeof REPORT_SECTIONS)[number];

export const SECTION_WORDS: Readonly<Record<ReportSection, string>> = {
  ratings: "What the manager says",
  figures: "Figures",
  curves: "Planned, earned and spent",
  milestones: "Milestones",
  deadlines: "Promises",
  drift: "Why the finish moved",
  done: "Finished and begun",
  next: "What comes next",
  decisions: "Decisions needed",
  requests: "Change requests and reserves",
  load: "Load ahead",
  trust: "Trust in the plan",
};

/** Parts of a group's own report by name, in the order in which they stand where nobody chose another. */
export const GROUP_SECTIONS = ["glance", "news", "said", "sums", "projects"] as const;
export type GroupSection = (typeof GROUP_SECTIONS)[number];

export const GROUP_SECTION_WORDS: Readonly<Record<GroupSection, string>> = {
  glance: "At a glance",
  news: "The worst news",
  said: "What is said of the whole",
  sums: "Figures together",
  projects: "Project by project",
};

/** What a report is printed on. */
export const PAPERS = ["A4", "LETTER"] as const;
export type Paper = (typeof PAPERS)[number];
