/** How many lists of a history are told at a time. */
export const HISTORY_LENGTH = 200;

/** Through what a list of changes came into a plan. */
export const THROUGH = ["hand", "reports", "request", "file", "system", "register", "undo"] as const;
export type Through = (typeof THROUGH)[number];

export const THROUGH_WORDS: Readonly<Record<Through, string>> = {
  hand: "by hand",
  reports: "reports",
  request: "approval",
  file: "a file",
  system: "another system",
  register: "the register",
  undo: "undo",
};
