import {
  MATTER_FIELD_WORDS,
  matterStateWords,
  type MatterSettings,
  type MatterWrite,
  type Me,
  type Tie,
} from "@chronometra/contract";
import { dateWords, ownValueFault, percentWords, type OwnValue } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { namesOf } from "../resources/namables.ts";
import { todayOf } from "../shared/clock.ts";
import { Failure } from "../shared/failure.ts";
import type { MatterContent, MatterRow } from "./matterRows.ts";
import { tieKey, tiePlaces } from "./ties.ts";

/** A matter as it is written: its row, what else there is of it, and what it is tied to. */
export interface Written {
  readonly row: MatterRow;
  readonly content: MatterContent;
  readonly ties: readonly Tie[];
  readonly removed: boolean;
}

type WriteOf<F extends MatterWrite["field"]> = Extract<MatterWrite, { field: F }>;

/** What of a matter stands in its row, and what besides; texts are empty where nothing is said. */
const OF_ROW = ["title", "state", "severity", "owner", "due", "chance"] as const;
const TEXTS = ["text", "response"] as const;
const BESIDES = ["strategy", "residual", "proximity"] as const;
const isOneOf = <F extends MatterWrite["field"]>(fields: readonly F[], write: MatterWrite): write is WriteOf<F> =>
  fields.some((field) => field === write.field);

/** What a field of a matter says, as a writer sees it. */
export function saidIn({ row, content, ties, removed }: Written, write: MatterWrite): unknown {
  if (isOneOf(OF_ROW, write)) return row[write.field];
  if (isOneOf(TEXTS, write)) return content[write.field] ?? "";
  if (isOneOf(BESIDES, write)) return content[write.field] ?? null;
  if (write.field === "ties") return ties;
  return write.field === "removed" ? removed : (content.values?.[write.of] ?? null);
}

function withValue({ values = {} }: MatterContent, of: string, value: OwnValue | null): MatterContent["values"] {
  const { [of]: _was, ...rest } = values;
  return value === null ? rest : { ...values, [of]: value };
}

/** A matter with one thing written, whatever it said; settled, it bears the day and whoever did so. */
export function withWrite(written: Written, write: MatterWrite, me: Me): Written {
  const { row, content } = written;
  if (write.field === "state") {
    const [closedOn, closedBy] = write.value === "open" ? [null, null] : [todayOf(me), me.id];
    return { ...written, row: { ...row, state: write.value, closedOn }, content: { ...content, closedBy } };
  }
  if (isOneOf(OF_ROW, write)) return { ...written, row: { ...row, [write.field]: write.value } };
  if (isOneOf([...TEXTS, ...BESIDES], write))
    return { ...written, content: { ...content, [write.field]: write.value } };
  if (write.field === "ties") return { ...written, ties: write.value };
  if (write.field === "removed") return { ...written, removed: write.value };
  return { ...written, content: { ...content, values: withValue(content, write.of, write.value) ?? {} } };
}

/** What is written of, as it is told: an own field by its name. */
export const fieldWords = (row: MatterRow, write: MatterWrite, settings: MatterSettings): string =>
  write.field === "values"
    ? (settings.fields[row.kind]?.find(({ id }) => id === write.of)?.name ?? MATTER_FIELD_WORDS.values)
    : MATTER_FIELD_WORDS[write.field];

/** A severity in words. */
export const severityWords = (settings: MatterSettings, id: string | null): string =>
  id === null ? "" : (settings.severities.find((step) => step.id === id)?.name ?? id);

const LONGEST_TOLD = 4000;

/** What a matter is written in: where it lies, and what registers are kept by. */
export interface Register {
  readonly manager: DataSource | EntityManager;
  readonly row: MatterRow;
  readonly settings: MatterSettings;
}

type Said = NonNullable<MatterWrite["value"]>;

const residualWords = (settings: MatterSettings, value: Said): string => {
  const { chance, severity } = value as NonNullable<MatterContent["residual"]>;
  return [percentWords(chance, 1), severityWords(settings, severity)].filter((part) => part !== "").join(", ");
};

async function tieWords({ manager, row }: Register, value: Said): Promise<string> {
  const places = row.projectId === null ? [] : await tiePlaces(manager, row.projectId);
  const names = new Map(places.map((place) => [tieKey(place), place.name]));
  return (value as Tie[]).map((tie) => names.get(tieKey(tie)) ?? tie.id).join("; ");
}

const yesNo = (value: Said): string =>
  typeof value === "boolean" ? (value ? "yes" : "no") : String(value as OwnValue);

/** How fields are told whose value is not told as it is. */
const TOLD: Readonly<
  Partial<Record<MatterWrite["field"], (register: Register, value: Said) => string | Promise<string>>>
> = {
  state: ({ row }, value) => matterStateWords(row.kind, value as MatterRow["state"]),
  severity: ({ settings }, value) => severityWords(settings, value as string),
  owner: async ({ manager }, value) => (await namesOf(manager, [value as string])).get(value as string) ?? "",
  due: (_register, value) => dateWords(value as string),
  proximity: (_register, value) => dateWords(value as string),
  chance: (_register, value) => percentWords(value as number, 1),
  residual: ({ settings }, value) => residualWords(settings, value),
  ties: tieWords,
  values: (_register, value) => yesNo(value),
  removed: (_register, value) => (value === true ? "removed" : "in the register"),
};

/** What a field says, in words, as it is told in the history: as things are called now. */
export async function valueWords(
  register: Register,
  { field }: MatterWrite,
  value: MatterWrite["value"],
): Promise<string> {
  if (value === null || value === "") return "";
  const words = (await TOLD[field]?.(register, value)) ?? String(value as OwnValue);
  return words.slice(0, LONGEST_TOLD);
}

/** What cannot be written in a field, in words; of all others anything can. */
const FAULTS: {
  readonly [F in MatterWrite["field"]]?: (
    register: Register,
    write: WriteOf<F>,
  ) => string | null | Promise<string | null>;
} = {
  severity: ({ settings }, { value }) => severityFault(settings, value),
  residual: ({ row, settings }, { value }) =>
    row.kind === "risk"
      ? severityFault(settings, value?.severity ?? null)
      : "Only a risk has a response that changes it.",
  owner: async ({ manager }, { value }) =>
    value === null || (await namesOf(manager, [value])).has(value)
      ? null
      : "Its owner is somebody who can sign in, or is in the register of people.",
  chance: ({ row }, { value }) => {
    if (row.kind !== "risk") return "Only a risk has a probability.";
    return value === null ? "A risk has a probability; write it as a percent." : null;
  },
  state: ({ row }, { value }) =>
    value === "struck" && row.state !== "struck"
      ? "That a risk struck is said by “It struck”, which makes an issue of it."
      : null,
  ties: ({ manager, row }, write) => tiesFault(manager, row, write),
  values: ({ row, settings }, { of, value }) => {
    const field = settings.fields[row.kind]?.find(({ id }) => id === of);
    if (field === undefined) return "There is no such own field in this register any more.";
    const own = value === null ? null : ownValueFault(field, value);
    return own === null ? null : `“${field.name}” ${own}.`;
  },
  removed: async ({ manager, row }, { value }) => {
    if (!value) return null;
    if (row.riskId !== null)
      return "A risk of a plan is removed where chances are reckoned, on its page Chances; or it is past.";
    const asked = (await manager.query("select 1 from gate_action where id = ?", [row.id])) as unknown[];
    return asked.length === 0 ? null : "A gate was passed on the condition that it is done; it stays, and is settled.";
  },
};

/**
 * Refuses what cannot be written of a matter.
 * @throws {Failure} invalid, with what is wrong
 */
export async function assertFits(register: Register, write: MatterWrite): Promise<void> {
  const check = FAULTS[write.field] as
    ((register: Register, write: MatterWrite) => string | null | Promise<string | null>) | undefined;
  const fault = (await check?.(register, write)) ?? null;
  if (fault !== null) throw new Failure("invalid", fault);
}

const severityFault = (settings: MatterSettings, id: string | null): string | null =>
  id === null || settings.severities.some((step) => step.id === id)
    ? null
    : "The scale of severity has no such step any more; look at it again.";

/** What is tied to must be there; what was tied before may be gone. */
async function tiesFault(
  manager: DataSource | EntityManager,
  { projectId }: MatterRow,
  { was, value }: Extract<MatterWrite, { field: "ties" }>,
): Promise<string | null> {
  const before = new Set(was.map(tieKey));
  const come = value.filter((tie) => !before.has(tieKey(tie)));
  if (new Set(value.map(tieKey)).size < value.length) return "It is tied to one thing twice.";
  if (come.length === 0) return null;
  if (projectId === null) return "Only what is of a project can be tied to things in it.";
  const there = new Set((await tiePlaces(manager, projectId)).map(tieKey));
  return come.every((tie) => there.has(tieKey(tie))) ? null : "What it is to be tied to is not there any more.";
}
