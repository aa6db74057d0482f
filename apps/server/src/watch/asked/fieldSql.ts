import {
  OWN_PREFIX,
  WATCH_FIELDS,
  type Me,
  type WatchAbout,
  type WatchCondition,
  type WatchField,
  type WatchType,
} from "@chronometra/contract";
import { addDays, formatDate, parseDate } from "@chronometra/core";
import { todayOf } from "../../shared/clock.ts";
import { Failure } from "../../shared/failure.ts";
import { isPlace, placeKey, type PlaceField, type ProjectPlace } from "./places.ts";

/** Who asks, as far as questions speak of "me" and "my team", and where all projects stand. */
export interface Asker {
  readonly me: Me;
  readonly places: ReadonlyMap<string, ProjectPlace>;
  /** People of all teams that the asker is in, the asker left out. */
  readonly team: readonly string[];
}

/** Text of a statement with the values that belong into it. */
export interface Sql {
  readonly sql: string;
  readonly values: readonly unknown[];
}

type Expressions = Readonly<Record<string, string>>;

const ACTIVITY: Expressions = {
  name: "r.name",
  branch: "r.branch",
  kind: "r.kind",
  state: "r.state",
  owner: "r.owner_id",
  start: "r.start",
  finish: "r.finish",
  baselineStart: "r.baseline_start",
  baselineFinish: "r.baseline_finish",
  drift: "r.drift",
  float: "r.total_float",
  critical: "r.critical",
  percent: "r.percent",
  deadline: "r.deadline",
  margin: "r.margin",
  deadlineState: "r.deadline_state",
  wish: "r.wish",
  duration: "r.duration",
  planned: "r.planned",
  remaining: "r.remaining",
  posted: "r.posted",
  bac: "r.bac",
  pv: "r.pv",
  ev: "r.ev",
  ac: "r.ac",
  sv: "(r.ev - r.pv)",
  cv: "(r.ev - r.ac)",
  estimate: "r.estimate",
  blocked: "r.blocked",
  blockedBy: "r.blocked_by",
  inRegisters: "coalesce(registered.matters, 0)",
  registersDue: "registered.due",
  followed: "if(followed.about_id is null, 0, 1)",
  reported: "r.reported",
  before: "r.links_in",
  after: "r.links_out",
};

const SPENT: Expressions = {
  date: "s.date",
  name: "r.name",
  branch: "r.branch",
  person: "s.person_id",
  role: "s.role",
  category: "s.category",
  hours: "s.minutes",
  amount: "s.amount",
  note: "s.note",
};

/** Besides the fields of the activity that it bears on. */
const RISK: Expressions = {
  ...ACTIVITY,
  risk: "r.risk",
  chance: "r.chance",
  least: "r.least",
  likely: "r.likely",
  most: "r.most",
  expected: "r.expected",
  costLikely: "r.cost_likely",
  costExpected: "r.cost_expected",
};

/** What rows of a kind are taken from, where `r` has the project and the activity. */
interface Source {
  readonly from: string;
  /** Tells a row from the others of its project. */
  readonly key: string;
  /** What holds of every row. */
  readonly always: string | null;
  /** How fields are spelled; people and own fields of activities lie in tables of their own. */
  readonly expressions: Expressions;
}

/** What a risk's row has from the activity that it bears on. */
const OF_ACTIVITY = [
  "name",
  "branch",
  "owner_id",
  "owner",
  "state",
  "start",
  "finish",
  "total_float",
  "critical",
  "deadline",
  "deadline_state",
];
const spent = (kind: string): Source => ({
  from: "spent_row s join activity_row r on r.project_id = s.project_id and r.activity_id = s.activity_id",
  key: "s.entry",
  always: `s.kind = '${kind}'`,
  expressions: SPENT,
});

/**
 * Where rows come from: `s` is time or a cost; a risk stands in one row with the activity that it bears on, where it
 * bears on one.
 */
export const SOURCES: Readonly<Record<WatchAbout, Source>> = {
  activities: { from: "activity_row r", key: "r.activity_id", always: null, expressions: ACTIVITY },
  time: spent("time"),
  costs: spent("cost"),
  risks: {
    from: `(select k.*, ${OF_ACTIVITY.map((column) => `a.${column}`).join(", ")} from risk_row k left join activity_row a on a.project_id = k.project_id and a.activity_id = k.activity_id) r`,
    key: "r.entry",
    always: null,
    expressions: RISK,
  },
};

/**
 * Open matters by the activity that they are tied to, as `registered`: summed once for all activities, since asking for
 * each would take minutes over a large house. Whether a plan's risk is open its head says.
 */
const REGISTERED = ` left join (
  select m.project_id, t.about_id, count(*) as matters, min(m.due) as due
    from matter_tie t join matter m on m.id = t.matter_id
    left join risk_head h on h.project_id = m.project_id and h.risk_id = m.risk_id
   where t.about = 'activity' and m.removed = 0
     and if(m.risk_id is null, m.state = 'open', h.risk_id is not null and h.gone is null)
   group by m.project_id, t.about_id) registered on registered.project_id = r.project_id and registered.about_id = r.activity_id`;
const OF_REGISTERS = new Set(["inRegisters", "registersDue"]);

/** What the asker follows, as `followed`. */
function followedBy({ id }: Me): string {
  if (!/^[\w-]+$/.test(id)) throw new Error("an account is known by letters, digits and hyphens");
  return ` left join (select f.project_id, f.about_id from following f
      where f.account_id = '${id}' and f.about = 'activity' and f.follows = 1 and f.ended = 0) followed
    on followed.project_id = r.project_id and followed.about_id = r.activity_id`;
}

/** What the rows of a question are taken from, in which these fields are spoken of. */
export const fromOf = (about: WatchAbout, fields: readonly string[], { me }: Asker): string =>
  [
    SOURCES[about].from,
    fields.some((name) => OF_REGISTERS.has(name)) ? REGISTERED : "",
    fields.includes("followed") ? followedBy(me) : "",
  ].join("");

/** The field of that name, an own field taken to be a text until a condition shows otherwise. */
export function fieldOf(about: WatchAbout, name: string): WatchField {
  if (about === "activities" && name.startsWith(OWN_PREFIX) && name.length > OWN_PREFIX.length)
    return { head: name.slice(OWN_PREFIX.length), type: "text" };
  const field = Object.hasOwn(WATCH_FIELDS[about], name) ? WATCH_FIELDS[about][name] : undefined;
  if (field === undefined) throw new Failure("invalid", `There is no field "${name}" to ask about ${about}.`);
  return field;
}

/** A value as people read it: kept words in the words of the field, a project's id as its place. */
export function inWords(about: WatchAbout, name: string, value: unknown, { places }: Asker): string | null {
  if (value === null || value === undefined || value === "") return null;
  if (isPlace(name)) return places.get(String(value))?.[name] ?? null;
  const field = fieldOf(about, name);
  if (field.type === "yesNo") return Number(value) === 1 ? "yes" : "no";
  return field.choices?.[String(value)] ?? String(value);
}

/** A row as the database gives it. */
export type Loose = Record<string, unknown>;

/** `today+30` as a date, today being where the asker is. */
export function dateMeant(text: string, me: Me): string {
  if (!text.startsWith("today")) return text;
  return formatDate(addDays(parseDate(todayOf(me))!, Number(text.slice("today".length) || 0)));
}

const NUMERIC: readonly WatchType[] = ["number", "days", "hours", "amount", "percent"];

/** Which conditions a field of a type can be asked for. */
function fits(type: WatchType, is: WatchCondition["is"], own: boolean): boolean {
  if (is === "empty" || is === "filled") return true;
  if (own) return true;
  switch (is) {
    case "yes":
    case "no":
      return type === "yesNo";
    case "has":
    case "hasNot":
      return type === "text";
    case "atLeast":
    case "below":
      return NUMERIC.includes(type);
    case "within":
    case "before":
    case "after":
      return type === "date";
    default:
      return type === "choice" || type === "person" || type === "role";
  }
}

const literally = (text: string): string => `%${text.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;

/**
 * The comparison of a value with a condition, the value spelled as `x`; amounts are compared in whole units of the
 * currency.
 */
function compare(x: string, type: WatchType, condition: WatchCondition, asker: Asker): Sql {
  switch (condition.is) {
    // A number that is 0 is there; the database would take it for an empty text.
    case "empty":
      return { sql: NUMERIC.includes(type) ? `${x} is null` : `(${x} is null or ${x} = '')`, values: [] };
    case "filled":
      return { sql: NUMERIC.includes(type) ? `${x} is not null` : `(${x} is not null and ${x} <> '')`, values: [] };
    case "yes":
    case "no":
      return { sql: `${x} = ${condition.is === "yes" ? 1 : 0}`, values: [] };
    case "has":
      return { sql: `${x} like ?`, values: [literally(condition.text)] };
    case "hasNot":
      return { sql: `(${x} is null or ${x} not like ?)`, values: [literally(condition.text)] };
    case "atLeast":
    case "below": {
      const unit = type === "hours" ? " * 60" : type === "amount" ? " * r.scale" : "";
      return { sql: `${x} ${condition.is === "atLeast" ? ">=" : "<"} ?${unit}`, values: [condition.number] };
    }
    case "within":
      return {
        sql: `${x} between ? and ?`,
        values: [dateMeant(condition.from, asker.me), dateMeant(condition.to, asker.me)],
      };
    case "before":
    case "after":
      return { sql: `${x} ${condition.is === "before" ? "<" : ">"} ?`, values: [dateMeant(condition.date, asker.me)] };
    case "any":
    case "none": {
      const of = type === "person" ? peopleMeant(condition.of, asker) : condition.of;
      // Nobody is meant where one is in no team.
      if (of.length === 0) return { sql: condition.is === "any" ? "false" : "true", values: [] };
      return condition.is === "any"
        ? { sql: `${x} in (?)`, values: [of] }
        : { sql: `(${x} is null or ${x} not in (?))`, values: [of] };
    }
    default:
      return condition satisfies never;
  }
}

/** A condition on where the project stands: which projects that leaves. */
function comparePlace(name: PlaceField, condition: WatchCondition, { places }: Asker): Sql {
  const of = condition.is === "any" || condition.is === "none" ? new Set(condition.of) : null;
  const meant = (key: string | null): boolean => {
    if (condition.is === "empty") return key === null;
    if (condition.is === "filled") return key !== null;
    return (condition.is === "any") === (key !== null && of!.has(key));
  };
  const ids = [...places.values()].filter((place) => meant(placeKey(place, name))).map(({ id }) => id);
  return ids.length === 0 ? { sql: "false", values: [] } : { sql: "r.project_id in (?)", values: [ids] };
}

const peopleMeant = (of: readonly string[], { me, team }: Asker): string[] => [
  ...new Set(
    of.flatMap((person) =>
      person === "me" ? (me.person === null ? [] : [me.person]) : person === "team" ? team : [person],
    ),
  ),
];

/** Turns "not" round, so that what is looked for in a table of several rows can be asked to be absent. */
function opposite(condition: WatchCondition): WatchCondition | null {
  switch (condition.is) {
    case "none":
      return { ...condition, is: "any" };
    case "hasNot":
      return { ...condition, is: "has" };
    case "empty":
      return { ...condition, is: "filled" };
    default:
      return null;
  }
}

const ownValueOf = ({ is }: WatchCondition): string =>
  is === "atLeast" || is === "below"
    ? "v.number"
    : is === "empty" || is === "filled"
      ? "coalesce(v.text, v.number)"
      : "v.text";

/** Values of own fields, where "yes" and "no" are texts. */
function compareOwn(condition: WatchCondition, asker: Asker): Sql {
  if (condition.is === "yes" || condition.is === "no") return { sql: "v.text = ?", values: [condition.is] };
  return compare(ownValueOf(condition), "text", condition, asker);
}

function inTableOfItsOwn(
  table: string,
  within: Sql,
  condition: WatchCondition,
  test: (condition: WatchCondition) => Sql,
): Sql {
  const turned = opposite(condition);
  const inner = test(turned ?? condition);
  return {
    sql: `${turned === null ? "" : "not "}exists (select 1 from ${table} where ${within.sql} and ${inner.sql})`,
    values: [...within.values, ...inner.values],
  };
}

/** One condition as a test of a row. */
export function conditionSql(about: WatchAbout, condition: WatchCondition, asker: Asker): Sql {
  const field = fieldOf(about, condition.field);
  const own = condition.field.startsWith(OWN_PREFIX);
  const name = condition.field;
  if (!fits(field.type, condition.is, own))
    throw new Failure(
      "invalid",
      `"${field.head}" cannot be asked whether it ${condition.is}; use another condition for it.`,
    );
  if (isPlace(name)) return comparePlace(name, condition, asker);
  if (own)
    return inTableOfItsOwn(
      "activity_value v",
      { sql: "v.project_id = r.project_id and v.activity_id = r.activity_id and v.field = ?", values: [field.head] },
      condition,
      (each) => compareOwn(each, asker),
    );
  if (about === "activities" && (name === "people" || name === "role")) {
    const x = name === "people" ? "v.person_id" : "v.role";
    return inTableOfItsOwn(
      "activity_person v",
      { sql: "v.project_id = r.project_id and v.activity_id = r.activity_id", values: [] },
      condition,
      (each) => compare(x, field.type, each, asker),
    );
  }
  return compare(SOURCES[about].expressions[name]!, field.type, condition, asker);
}

const joined = (parts: readonly Sql[], by: string): Sql => ({
  sql: parts.map(({ sql }) => sql).join(by),
  values: parts.flatMap(({ values }) => values),
});

/** All that must hold of a row: one of the groups, each with all of its conditions. */
export function whereSql(about: WatchAbout, where: readonly (readonly WatchCondition[])[], asker: Asker): Sql {
  const groups = where.map((group) =>
    joined(
      group.map((condition) => conditionSql(about, condition, asker)),
      " and ",
    ),
  );
  const asked: Sql[] =
    groups.length === 0
      ? []
      : [
          {
            sql: `(${groups.map(({ sql }) => `(${sql})`).join(" or ")})`,
            values: groups.flatMap(({ values }) => values),
          },
        ];
  const { always } = SOURCES[about];
  const parts = [...(always === null ? [] : [{ sql: always, values: [] }]), ...asked];
  return parts.length === 0 ? { sql: "true", values: [] } : joined(parts, " and ");
}
