import { A_ROLE, NEW_PERSON, NOBODY, type ImportView } from "@chronometra/contract";
import { countWords, nameInAnyOrder, readCommonWork, type CommonWork, type Person } from "@chronometra/core";
import type { Loose } from "../match/readTables.ts";
import { against, DAY, note, placeOfCell, type Sense } from "./sense.ts";

/** Who works on what, and who owns which row. */
export interface WorkFound {
  readonly assignments: Loose[];
  /** By the position of the row. */
  readonly owners: ReadonlyMap<number, string>;
}

/** More than so many who may be meant are not offered. */
const MEANT = 5;

/** Those who may be meant by a name that is nobody's: who bears all of its words, or one of them. */
function meantBy(name: string, people: readonly Pick<Person, "id" | "name">[]): { id: string; name: string }[] {
  const words = nameInAnyOrder(name).split(" ");
  const near = people
    .map((person) => {
      const own = nameInAnyOrder(person.name).split(" ");
      const alike = words.filter((word) => own.some((each) => each.startsWith(word) || word.startsWith(each))).length;
      return { person, alike };
    })
    .filter(({ alike }) => alike > 0)
    .sort((a, b) => b.alike - a.alike);
  return near.slice(0, MEANT).map(({ person: { id, name: called } }) => ({ id, name: called }));
}

function byNames(people: readonly Person[]): ReadonlyMap<string, readonly Person[]> {
  const found = new Map<string, Person[]>();
  for (const person of people) {
    const key = nameInAnyOrder(person.name);
    const same = found.get(key);
    if (same === undefined) found.set(key, [person]);
    else same.push(person);
  }
  return found;
}

/** Everyone whom a plan that comes in may name: those it brings, those who are known, those who were said to be new. */
export class Persons {
  readonly people: Loose[];
  readonly placeholders: string[] = [];
  private readonly ids = new Map<string, string>();
  private readonly open = new Map<string, { name: string; count: number; place: string }>();
  private readonly taken: Set<unknown>;
  /** Those who are known, by their names in any order. */
  private readonly known: ReadonlyMap<string, readonly Person[]>;
  private readonly said: ReadonlyMap<string, string>;
  private counter = 0;

  constructor(
    private readonly sense: Pick<Sense, "answers" | "known">,
    brought: readonly Loose[],
    private readonly money: { readonly currency: string; readonly minorDigits: number },
  ) {
    this.people = [...brought];
    this.known = byNames(sense.known.people);
    this.said = new Map(Object.entries(sense.answers.people ?? {}).map(([name, who]) => [nameInAnyOrder(name), who]));
    this.taken = new Set(brought.map(({ id }) => id));
    for (const { id, name } of brought) {
      this.ids.set(nameInAnyOrder(String(id)), String(id));
      this.ids.set(nameInAnyOrder(String(name)), String(id));
    }
  }

  /** Whether an id is that of someone in the plan. */
  hasId(id: string): boolean {
    return this.taken.has(id);
  }

  /** Whether someone of the file or of the register is called so, in any order of the name. */
  isKnown(name: string): boolean {
    const key = nameInAnyOrder(name);
    return this.ids.has(key) || this.known.has(key);
  }

  /** Who is called so; `null` where nobody is meant, `undefined` where it has to be asked first. */
  find(name: string, place: string): string | null | undefined {
    const key = nameInAnyOrder(name);
    const there = this.ids.get(key);
    if (there !== undefined) return there;
    const known = this.known.get(key) ?? [];
    if (known.length === 1) return this.bring(known[0]!, key);
    const said = this.said.get(key);
    if (said === NOBODY) return null;
    if (said === NEW_PERSON || said === A_ROLE) return this.make(name, key, said === A_ROLE);
    const meant = this.sense.known.people.find(({ id }) => id === said);
    if (meant !== undefined) return this.bring(meant, key);
    const asked = this.open.get(key);
    this.open.set(key, { name, place, ...asked, count: (asked?.count ?? 0) + 1 });
    return undefined;
  }

  /** Someone who is named by what they are only. */
  role(name: string): string {
    const key = `role ${nameInAnyOrder(name)}`;
    return this.ids.get(key) ?? this.make(name, key, true);
  }

  private bring(person: Person, key: string): string {
    if (!this.taken.has(person.id)) {
      const { calendar: _calendar, rates, ...rest } = person;
      const { currency, minorDigits } = this.sense.known.house;
      const sameMoney = this.money.currency === currency && this.money.minorDigits === minorDigits;
      this.people.push({ ...rest, ...(sameMoney && rates !== undefined ? { rates } : {}) });
      this.taken.add(person.id);
    }
    this.ids.set(key, person.id);
    return person.id;
  }

  private make(name: string, key: string, isRole: boolean): string {
    let id: string;
    do id = `person-${++this.counter}`;
    while (this.taken.has(id) || this.sense.known.people.some((person) => person.id === id));
    this.taken.add(id);
    this.ids.set(key, id);
    this.people.push({ id, name: name.trim(), ...(isRole ? { role: name.trim() } : {}) });
    if (isRole) this.placeholders.push(id);
    return id;
  }

  /** Whom nobody knows, with those who may be meant. */
  question(): ImportView["peopleQuestion"] {
    return [...this.open.values()].map((each) => ({ ...each, meant: meantBy(each.name, this.sense.known.people) }));
  }
}

/** Stands for whoever will work hours that nobody is named for. */
const UNNAMED = "Nobody yet";

/** How many minutes someone is to work: as written, else their share of the row's hours or of how long it lasts. */
function plannedOf(part: CommonWork, all: readonly CommonWork[], hours: number | undefined, length: number): number {
  if (part.minutes !== undefined) return part.minutes;
  const share = (part.unitsPercent ?? 100) / 100;
  if (hours === undefined) return Math.round(length * share);
  const open = all.filter(({ minutes }) => minutes === undefined);
  const left = hours * 60 - all.reduce((sum, { minutes = 0 }) => sum + minutes, 0);
  const shares = open.reduce((sum, { unitsPercent = 100 }) => sum + unitsPercent / 100, 0);
  return Math.max(0, Math.round((left * share) / shares));
}

/** Whoever is named in the cells of a row, with what is said of them. */
type Named = readonly (readonly [part: CommonWork, id: string])[];

/** Who works on a row: those whom it names, else the role it names, else whoever will where it has hours. */
function namedIn(sense: Sense, persons: Persons, i: number, commas: boolean): { who: Named; unnamed: boolean } {
  const row = sense.rows[i]!;
  const { people: text = "", role } = row.fields as { people?: string; role?: string };
  const none = { who: [], unnamed: false };
  if (sense.isBranch(i)) {
    if (text !== "") against(sense, i, "people", "people work on activities, and not on a branch; name them there");
    return none;
  }
  const read = readCommonWork(text, DAY, (name) => persons.isKnown(name), commas);
  if ("fault" in read) {
    against(sense, i, "people", `${read.fault}: write names, as Ann; Bob 16h; Cleo 50%`);
    return none;
  }
  if (read.parts.length > 0) {
    const who = read.parts.flatMap((part) => {
      const id = persons.find(part.name, placeOfCell(sense, row, "people"));
      return typeof id === "string" ? [[part, id] as const] : [];
    });
    return { who, unnamed: false };
  }
  if (role !== undefined) return { who: [[{ name: role }, persons.role(role)]], unnamed: false };
  return row.fields["plannedHours"] === undefined
    ? none
    : { who: [[{ name: UNNAMED }, persons.role(UNNAMED)]], unnamed: true };
}

/** The work of a row as assignments; someone is named once. */
function assigned(sense: Sense, i: number, who: Named, length: number): Loose[] {
  const hours = sense.rows[i]!.fields["plannedHours"] as number | undefined;
  const parts = who.map(([part]) => part);
  const byPerson = new Map<string, Loose>();
  for (const [part, person] of who) {
    if (byPerson.has(person))
      against(sense, i, "people", `“${part.name}” is named twice; write them once, with all of their hours`);
    else
      byPerson.set(person, {
        activity: sense.ids[i]!,
        person,
        plannedMinutes: plannedOf(part, parts, hours, length),
        ...(part.unitsPercent === undefined || part.unitsPercent === 100 ? {} : { unitsPercent: part.unitsPercent }),
      });
  }
  return [...byPerson.values()];
}

/**
 * Who works on each row, and who owns it, read from its columns of people, roles, hours and owners.
 * @param lengths minutes that each row lasts, where known
 */
export function workIn(sense: Sense, persons: Persons, lengths: readonly (number | undefined)[]): WorkFound {
  const assignments: Loose[] = [];
  const owners = new Map<number, string>();
  let unnamed = 0;
  // Where one cell parts people by this sign, commas stand within names.
  const commas = !sense.rows.some(({ fields }) => (fields["people"] as string | undefined)?.includes(";"));
  sense.rows.forEach((row, i) => {
    const owner = row.fields["owner"] as string | undefined;
    const id = owner === undefined ? null : persons.find(owner, placeOfCell(sense, row, "owner"));
    if (typeof id === "string") owners.set(i, id);
    const named = namedIn(sense, persons, i, commas);
    if (named.unnamed) unnamed++;
    assignments.push(...assigned(sense, i, named.who, lengths[i] ?? 0));
  });
  if (unnamed > 0)
    note(
      sense,
      "plannedHours",
      `${countWords(unnamed, "activity has", "activities have")} hours and nobody who works them: “${UNNAMED}” stands for whoever will.`,
    );
  return { assignments, owners };
}
