import { randomUUID } from "node:crypto";
import type { ProjectRecord } from "@chronometra/contract";
import { canonicalText, countWords, dateWords } from "@chronometra/core";

type RowOf<T extends keyof ProjectRecord> = NonNullable<ProjectRecord[T]> extends readonly (infer Row)[] ? Row : never;
export type NamedAccount = RowOf<"accounts">;

/** What of the installation a record may speak of. */
export interface House {
  /** Whether whoever brings the file may bring more than a plan. */
  readonly mayBring: boolean;
  readonly accounts: readonly NamedAccount[];
  readonly periods: readonly Pick<RowOf<"periods">, "number" | "dataDate">[];
  readonly lifeCycles: readonly RowOf<"lifeCycles">[];
  readonly projectFields: readonly RowOf<"projectFields">[];
}

/** What a record becomes in an installation: what is there already, and what has to be added. */
export interface Met {
  /** Accounts here by their ids there. */
  readonly accounts: ReadonlyMap<string, string>;
  /** Numbers here of periods by their numbers there; those that the calendar here has not are left out. */
  readonly periods: ReadonlyMap<number, number>;
  readonly lifeCycles: ReadonlyMap<string, string>;
  readonly projectFields: ReadonlyMap<string, string>;
  readonly added: Pick<ProjectRecord, "accounts" | "periods" | "lifeCycles" | "projectFields">;
  /** What is to be known before it is stored, in words. */
  readonly notices: readonly string[];
}

const alike = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();
const listed = (names: readonly string[]): string =>
  names.length <= 6 ? names.join(", ") : `${names.slice(0, 6).join(", ")} and ${names.length - 6} more`;

/** A login that nobody has: the one wished for, else with a number. */
function freeLogin(wished: string, taken: ReadonlySet<string>): string {
  const free = (login: string): boolean => !taken.has(login);
  const plain = wished.trim().toLowerCase().slice(0, 100) || "someone";
  if (free(plain)) return plain;
  let n = 2;
  while (!free(`${plain}-${n}`)) n++;
  return `${plain}-${n}`;
}

function meetAccounts(record: ProjectRecord, house: House) {
  const met = new Map<string, string>();
  const added: NamedAccount[] = [];
  const logins = new Set(house.accounts.map(({ login }) => login));
  const ids = new Set(house.accounts.map(({ id }) => id));
  for (const account of record.accounts ?? []) {
    const known = house.accounts.find(({ login, name }) => alike(login, account.login) && alike(name, account.name));
    if (known !== undefined) {
      met.set(account.id, known.id);
      continue;
    }
    const id = ids.has(account.id) ? randomUUID() : account.id;
    const login = freeLogin(account.login, logins);
    logins.add(login);
    added.push({ ...account, login, id });
    met.set(account.id, id);
  }
  return { met, added };
}

/** Life cycles by their kind. */
function meetLifeCycles(record: ProjectRecord, house: House) {
  const met = new Map<string, string>();
  const added: RowOf<"lifeCycles">[] = [];
  const others: string[] = [];
  for (const cycle of record.lifeCycles ?? []) {
    const known = house.lifeCycles.find(({ kind }) => alike(kind, cycle.kind));
    if (known === undefined) {
      const id = house.lifeCycles.some((each) => each.id === cycle.id) ? randomUUID() : cycle.id;
      added.push({ ...cycle, id });
      met.set(cycle.id, id);
    } else {
      met.set(cycle.id, known.id);
      if (canonicalText(known.content) !== canonicalText(cycle.content)) others.push(cycle.kind);
    }
  }
  return { met, added, others };
}

/** Fields of projects by name and kind. */
function meetFields(record: ProjectRecord, house: House) {
  const met = new Map<string, string>();
  const added: RowOf<"projectFields">[] = [];
  let position = Math.max(0, ...house.projectFields.map((field) => field.position));
  for (const { id, definition } of record.projectFields ?? []) {
    const known = house.projectFields.find(
      (field) => alike(field.definition.name, definition.name) && field.definition.type === definition.type,
    );
    const here = known?.id ?? (house.projectFields.some((field) => field.id === id) ? randomUUID() : id);
    met.set(id, here);
    if (known === undefined) added.push({ id: here, position: ++position, definition: { ...definition, id: here } });
  }
  return { met, added };
}

/** Periods by their data dates; where the calendar here is empty, it becomes that of the file. */
function meetPeriods(record: ProjectRecord, house: House) {
  const there = record.periods ?? [];
  if (house.periods.length === 0) return { met: new Map(there.map(({ number }) => [number, number])), added: there };
  const byDate = new Map(house.periods.map(({ dataDate, number }) => [dataDate, number]));
  const met = new Map(
    there.flatMap(({ number, dataDate }) => {
      const here = byDate.get(dataDate);
      return here === undefined ? [] : [[number, here] as const];
    }),
  );
  return { met, added: [] };
}

interface Meetings {
  readonly accounts: ReturnType<typeof meetAccounts>;
  readonly periods: ReturnType<typeof meetPeriods>;
  readonly cycles: ReturnType<typeof meetLifeCycles>;
  readonly fields: ReturnType<typeof meetFields>;
}

/** What is to be known before a record is stored: what it adds, and what stays behind. */
function noticesOf(record: ProjectRecord, { accounts, periods, cycles, fields }: Meetings): string[] {
  const notices: string[] = [];
  const tell = (...words: string[]): void => void notices.push(words.join(" "));
  const lost = (record.issuedPeriods ?? []).filter(({ number }) => !periods.met.has(number));
  const { filesLeftOut } = record.project;
  if (accounts.added.length > 0)
    tell(
      countWords(accounts.added.length, "person who wrote in it has", "people who wrote in it have"),
      `no account here: ${listed(accounts.added.map(({ name }) => name))}. Each gets one under that name,`,
      "with which nobody can sign in until an administrator gives it a role and a password.",
    );
  if (lost.length > 0)
    tell(
      countWords(lost.length, "issued period ends on a day", "issued periods end on days"),
      "that the reporting calendar here does not have",
      `(${listed([...new Set(lost.map(({ dataDate }) => dateWords(dataDate)))])}). They stay in the file.`,
    );
  if (filesLeftOut !== undefined)
    tell(
      `${countWords(filesLeftOut.count, "file", "files")} of documents and talk did not come along: together they are`,
      `too large (${Math.round(filesLeftOut.bytes / 1024 / 1024)} MB). A whole installation takes them along.`,
    );
  if (periods.added.length > 0)
    tell(
      "There is no reporting calendar here yet; that of the file becomes it, with",
      `${countWords(periods.added.length, "period", "periods")}.`,
    );
  for (const { kind } of cycles.added) tell(`The life cycle of “${kind}” is added to those of the installation.`);
  for (const kind of cycles.others)
    tell(`The life cycle of “${kind}” has other stages or conditions here; the project lives by those.`);
  if (fields.added.length > 0)
    tell(
      `${countWords(fields.added.length, "field", "fields")} that every project has`,
      fields.added.length === 1 ? "is added:" : "are added:",
      `${listed(fields.added.map(({ definition }) => definition.name))}.`,
    );
  return notices;
}

/** What an installation makes of a record: what it knows already, what is added to it, and what stays in the file. */
export function meetHouse(record: ProjectRecord, house: House): Met {
  const accounts = meetAccounts(record, house);
  const periods = meetPeriods(record, house);
  const cycles = meetLifeCycles(record, house);
  const fields = meetFields(record, house);
  return {
    accounts: accounts.met,
    periods: periods.met,
    lifeCycles: cycles.met,
    projectFields: fields.met,
    added: {
      accounts: accounts.added,
      periods: [...periods.added],
      lifeCycles: cycles.added,
      projectFields: fields.added,
    },
    notices: noticesOf(record, { accounts, periods, cycles, fields }),
  };
}
