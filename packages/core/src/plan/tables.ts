/** What there is to know of a table of a plan; its rows' schema stands under its name in `rowSchemas.ts`. */
interface Table {
  /** Whether the open format has it; the others are what a plan keeps besides. */
  readonly open: boolean;
  /** What a row is, where it has no name. */
  readonly words: string;
  /** How its rows change by hand: not at all, whole ones added and removed, or their fields rewritten too. */
  readonly hand: null | "rows" | "fields";
  /** Whether its rows stay on the server, where figures are made of them. */
  readonly stays?: true;
  /** Whether a row has a name of its own, by which it is called. */
  readonly named?: true;
  /** What becomes of a row with an activity that goes; nothing where it does not speak of any, or that is a change of its own. */
  readonly activity?: Hanging | readonly Hanging[];
  /** The same with a person. */
  readonly person?: Hanging;
}

/** What of a row names another: its key, a field, or a list of ids (or of objects that have them), without which it goes too. */
export type Hanging =
  | { readonly by: "key" }
  | { readonly by: "field"; readonly field: string }
  | { readonly by: "list"; readonly list: string; readonly id?: string; readonly least: number };

const described = <T extends Readonly<Record<string, Table>>>(tables: T): T => tables;

/** Every table of a plan, in the order in which they are stored and shown. */
export const TABLES = described({
  calendars: { open: true, words: "a calendar", hand: "fields", named: true },
  people: { open: true, words: "a person", hand: "fields", named: true },
  activities: { open: true, words: "an activity", hand: "rows", named: true },
  links: { open: true, words: "a link", hand: "fields" },
  assignments: { open: true, words: "someone’s work", hand: "fields" },
  costs: { open: true, words: "a planned cost", hand: "fields" },
  baselines: { open: true, words: "a baseline", hand: null },
  timeEntries: { open: true, words: "a time entry", hand: null, stays: true },
  actualCosts: { open: true, words: "an actual cost", hand: null, stays: true },
  fields: { open: false, words: "an own field", hand: "fields", named: true },
  ownValues: { open: false, words: "own fields", hand: null },
  teams: { open: false, words: "a team", hand: "fields", named: true },
  categories: { open: false, words: "a cost category", hand: "fields" },
  placeholders: { open: false, words: "someone who stands for a role", hand: "rows" },
  carried: { open: false, words: "logic carried across parked work", hand: "rows" },
  blocks: { open: false, words: "what blocks an activity", hand: "rows", activity: { by: "key" } },
  promises: { open: false, words: "a promise", hand: "rows", activity: { by: "key" } },
  notes: { open: false, words: "notes", hand: "fields", activity: { by: "key" } },
  ranges: { open: false, words: "a range", hand: "rows", activity: { by: "key" } },
  risks: {
    open: false,
    words: "a risk",
    hand: "fields",
    named: true,
    activity: { by: "list", list: "effects", id: "activity", least: 0 },
  },
  meetings: {
    open: false,
    words: "a meeting",
    hand: "rows",
    named: true,
    activity: { by: "field", field: "activity" },
    person: { by: "list", list: "people", least: 1 },
  },
  alternates: {
    open: false,
    words: "alternates",
    hand: "fields",
    named: true,
    activity: { by: "list", list: "members", least: 2 },
  },
  timeboxes: {
    open: false,
    words: "a timebox",
    hand: "fields",
    named: true,
    activity: { by: "field", field: "branch" },
  },
  boxed: { open: false, words: "a place in a timebox", hand: "fields", activity: { by: "key" } },
  gathered: {
    open: false,
    words: "a part of what a milestone gathers",
    hand: "rows",
    activity: [{ by: "key" }, { by: "field", field: "milestone" }],
  },
});

type Tables = typeof TABLES;
export type PlanTable = keyof Tables;
/** Tables of which this is true. */
type Where<Is> = { [T in PlanTable]: Tables[T] extends Is ? T : never }[PlanTable];

/** The tables of the open format, and those that a plan keeps besides. */
export type BundleTable = Where<{ readonly open: true }>;
export type OwnTable = Where<{ readonly open: false }>;
/** Tables whose rows are added and removed by hand, and those whose rows' fields are rewritten too. */
export type HandTable = Where<{ readonly hand: "rows" | "fields" }>;
export type EditedTable = Where<{ readonly hand: "fields" }>;
export type ShownTable = Exclude<PlanTable, Where<{ readonly stays: true }>>;
export type NamedTable = Where<{ readonly named: true }>;

export const PLAN_TABLES = Object.keys(TABLES) as readonly PlanTable[];
const where = <T extends PlanTable>(is: (table: Table) => boolean): readonly T[] =>
  PLAN_TABLES.filter((table) => is(TABLES[table])) as T[];
export const OWN_TABLES = where<OwnTable>(({ open }) => !open);
/** Tables that a page of the plan is given. */
export const SHOWN_TABLES = where<ShownTable>(({ stays }) => stays !== true);
export const HAND_TABLES = where<HandTable>(({ hand }) => hand !== null);
export const EDITED_TABLES = where<EditedTable>(({ hand }) => hand === "fields");
export const NAMED_TABLES = where<NamedTable>(({ named }) => named === true);

/** What hangs on activities, or on people, by table. */
export const hangingOn = (what: "activity" | "person"): readonly (readonly [HandTable, Hanging])[] =>
  HAND_TABLES.flatMap((table) => {
    const hanging = (TABLES[table] as Table)[what] ?? [];
    return [hanging].flat().map((each) => [table, each as Hanging] as const);
  });
