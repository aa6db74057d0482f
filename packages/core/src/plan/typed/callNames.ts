import { ungrouped } from "../../words/numberWords.ts";
/** Something that has a name, and what tells it from others of that name, the nearest first. */
export interface Called {
  readonly id: string;
  readonly name: string;
  readonly apart?: () => readonly string[];
}

/** What a text names: one thing, or what each is called of those it could be (of none where it names nothing). */
export type Found = { readonly id: string } | { readonly among: readonly string[] };

const plain = (text: string): string => text.trim().toLowerCase();

/** Parts of a text that `;` divides; within “…” it does not. */
export const partsOf = (text: string): string[] =>
  (ungrouped(text).match(/(?:“[^”]*”|[^;])+/g) ?? []).map((part) => part.trim()).filter((part) => part !== "");

/** A text without the “…” that it stands in. */
export const unquoted = (text: string): string => text.trim().replace(/^“(.*)”$/, "$1");

/**
 * What things are called where each must be meant by a text: by its name; where several bear it, by its name and what
 * tells it apart, “Dig (South chamber)”; where neither does, by `#` and its id. What would be read as more than a name
 * stands in “…”.
 */
export class CallNames {
  private readonly called = new Map<string, string>();
  private readonly ids = new Map<string, string[]>();
  private sorted: readonly string[] | null = null;

  /** @param odd what is read as more than a name in the texts they stand in */
  constructor(
    things: Iterable<Called>,
    private readonly odd: RegExp | null = null,
  ) {
    const byName = new Map<string, Called[]>();
    for (const thing of things) {
      const known = byName.get(plain(thing.name));
      if (known === undefined) byName.set(plain(thing.name), [thing]);
      else known.push(thing);
    }
    for (const [name, group] of byName) {
      this.ids.set(
        name,
        group.map(({ id }) => id),
      );
      if (group.length === 1) this.called.set(group[0]!.id, this.written(group[0]!.name.trim(), group[0]!.id));
    }
    for (const group of byName.values()) if (group.length > 1) this.tellApart(group, byName);
  }

  /** Each by as little of what tells it apart as no other of its name has. */
  private tellApart(group: readonly Called[], byName: ReadonlyMap<string, unknown>): void {
    const tries = group.map(({ name, apart }) => {
      const words = apart?.() ?? [];
      return words.map((_word, k) => `${name.trim()} (${words.slice(0, k + 1).join(", ")})`);
    });
    const count = new Map<string, number>();
    for (const each of tries.flat()) count.set(plain(each), (count.get(plain(each)) ?? 0) + 1);
    for (const [i, { id }] of group.entries()) {
      const call = tries[i]!.find((each) => count.get(plain(each)) === 1 && !byName.has(plain(each)));
      if (call !== undefined) this.ids.set(plain(call), [id]);
      this.called.set(id, call === undefined ? `#${id}` : this.written(call, id));
    }
  }

  private written(call: string, id: string): string {
    if (call === "") return `#${id}`;
    if (this.odd === null || !this.odd.test(call)) return call;
    return /[“”]/.test(call) ? `#${id}` : `“${call}”`;
  }

  /** @throws where it is none of the things */
  of(id: string): string {
    const call = this.called.get(id);
    if (call === undefined) throw new Error(`${id} is not among what is called by name.`);
    return call;
  }

  has(id: string): boolean {
    return this.called.has(id);
  }

  /** The one that is called so, and no other. */
  findWhole(text: string): Found {
    if (text.startsWith("#") && this.has(text.slice(1))) return { id: text.slice(1) };
    return this.oneOf(this.ids.get(plain(text)) ?? this.ids.get(plain(unquoted(text))) ?? []);
  }

  /** The one that is called so, or whose name alone begins so. */
  find(text: string): Found {
    const found = this.findWhole(text);
    if ("id" in found || found.among.length > 0 || /^[#“]/.test(text)) return found;
    return this.oneOf(this.beginningWith(plain(text)));
  }

  /** As {@link find}, also by the beginning of any word of the name. */
  findByWord(text: string): Found {
    const found = this.find(text);
    if ("id" in found || found.among.length > 0 || text.startsWith("#")) return found;
    const name = plain(text);
    return this.oneOf(
      [...this.ids].flatMap(([call, ids]) => (call.split(/\s+/).some((word) => word.startsWith(name)) ? ids : [])),
    );
  }

  private oneOf(ids: readonly string[]): Found {
    const found = [...new Set(ids)];
    return found.length === 1 ? { id: found[0]! } : { among: found.map((id) => this.of(id)) };
  }

  /** Those whose call begins with a text, found by halving. */
  private beginningWith(text: string): string[] {
    this.sorted ??= [...this.ids.keys()].sort();
    let [low, high] = [0, this.sorted.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.sorted[middle]! < text) low = middle + 1;
      else high = middle;
    }
    const found: string[] = [];
    for (let at = low; at < this.sorted.length && this.sorted[at]!.startsWith(text); at++)
      found.push(...this.ids.get(this.sorted[at]!)!);
    return found;
  }
}

const CHOICES_TOLD = 4;

/** What a text could mean, to choose from: “Pour” could be Pour (North), Pour (South). */
export const couldBe = (text: string, among: readonly string[]): string =>
  `“${unquoted(text)}” could be ${among.slice(0, CHOICES_TOLD).join(", ")}${among.length > CHOICES_TOLD ? ` or ${among.length - CHOICES_TOLD} others` : ""}; write which.`;

interface InTree {
  readonly id: string;
  readonly name: string;
  readonly parent?: string | null | undefined;
}

/**
 * Activities by their names; namesakes are told apart by the branches they lie in.
 * @param among those of them that can be meant; all without it
 */
export function activityNames<T extends InTree>(
  activities: Iterable<T>,
  { odd = null, among = () => true }: { odd?: RegExp | null; among?: (activity: T) => boolean } = {},
): CallNames {
  const byId = new Map([...activities].map((activity) => [activity.id, activity]));
  const branchesOf = (activity: InTree): string[] => {
    const names: string[] = [];
    for (let at = activity.parent; at != null && names.length < byId.size; at = byId.get(at)?.parent)
      names.push(byId.get(at)?.name.trim() ?? at);
    return names;
  };
  return new CallNames(
    [...byId.values()]
      .filter(among)
      .map((activity) => ({ id: activity.id, name: activity.name, apart: () => branchesOf(activity) })),
    odd,
  );
}

/** People by their names; namesakes are told apart by their roles. */
export const peopleNames = (
  people: Iterable<{ readonly id: string; readonly name: string; readonly role?: string | null | undefined }>,
  odd: RegExp | null = null,
): CallNames =>
  new CallNames(
    [...people].map(({ id, name, role }) => ({ id, name, apart: () => (role == null ? [] : [role]) })),
    odd,
  );
