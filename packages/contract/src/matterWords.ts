/** What registers are kept of: what may come, what came, what is to be done, what was decided, taken for true, and learned. */
export const MATTER_KINDS = ["risk", "issue", "action", "decision", "assumption", "lesson"] as const;
export type MatterKind = (typeof MATTER_KINDS)[number];

export const MATTER_KIND_WORDS: Readonly<Record<MatterKind, readonly [one: string, many: string]>> = {
  risk: ["risk", "risks"],
  issue: ["issue", "issues"],
  action: ["action", "actions"],
  decision: ["decision", "decisions"],
  assumption: ["assumption", "assumptions"],
  lesson: ["lesson", "lessons"],
};

/** A matter is open or settled; a risk may also have struck. */
export const MATTER_STATES = ["open", "settled", "struck"] as const;
export type MatterState = (typeof MATTER_STATES)[number];

const SETTLED_WORDS: Readonly<Record<MatterKind, readonly [open: string, settled: string]>> = {
  risk: ["open", "past"],
  issue: ["open", "solved"],
  action: ["to do", "done"],
  decision: ["to be decided", "decided"],
  assumption: ["taken for true", "settled"],
  lesson: ["to be taken up", "taken up"],
};

/** How a matter stands, in the words of its kind. */
export const matterStateWords = (kind: MatterKind, state: MatterState): string =>
  state === "struck" ? "struck" : SETTLED_WORDS[kind][state === "open" ? 0 : 1];

/** What is done about a risk (common practice, no source). */
export const STRATEGIES = ["avoid", "reduce", "transfer", "accept"] as const;
export type Strategy = (typeof STRATEGIES)[number];

/** What the words of a response say, by kind. */
export const RESPONSE_WORDS: Readonly<Record<MatterKind, string>> = {
  risk: "Response",
  issue: "What is done about it",
  action: "How it went",
  decision: "What was decided, and why",
  assumption: "What it rests on",
  lesson: "What to do next time",
};

/** What a matter can be tied to. */
export const TIE_PLACES = ["activity", "deliverable", "gate", "change", "report"] as const;
export type TiePlace = (typeof TIE_PLACES)[number];

/** What of a matter is written, as it is called where it is told. */
export const MATTER_FIELD_WORDS = {
  title: "Title",
  text: "Description",
  state: "State",
  severity: "Severity",
  owner: "Owner",
  due: "Due",
  strategy: "Kind of response",
  response: "Response",
  chance: "Probability",
  residual: "After the response",
  proximity: "May strike by",
  ties: "Tied to",
  values: "Own field",
  removed: "Removed",
} as const;
export type MatterField = keyof typeof MATTER_FIELD_WORDS;

/** Fields that whoever owns a matter may write, without planning the project. */
export const OWNERS_FIELDS: readonly MatterField[] = ["state", "response", "strategy", "residual", "proximity"];

/** The scale of severity until the house defines its own, the least first. */
export const DEFAULT_SEVERITIES: readonly { readonly id: string; readonly name: string }[] = [
  { id: "small", name: "small" },
  { id: "noticed", name: "noticed" },
  { id: "serious", name: "serious" },
  { id: "grave", name: "grave" },
];

/** Bounds of the bands of probability that the matrix has, the least first; each reaches up to the next. */
export const CHANCE_BANDS = [0, 0.1, 0.3, 0.5, 0.7] as const;

/** So many are put into registers at once. */
export const MOST_LISTED = 1000;

/** What the columns of a list can hold, besides own fields. */
export const LIST_COLUMNS = {
  kind: "Kind",
  title: "What",
  place: "Of",
  text: "Description",
  severity: "Severity",
  chance: "Probability",
  owner: "Owner",
  due: "Due",
  state: "State",
  strategy: "Kind of response",
  response: "What is done about it",
} as const;
export type ListColumn = keyof typeof LIST_COLUMNS;
