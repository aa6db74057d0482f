import { CallNames } from "@chronometra/core";

/** Someone who can be named. */
export interface Callable {
  readonly id: string;
  /** As they are called; no two alike. */
  readonly as: string;
}

/** How people are called with `@`: by name, and those of one name by their sign-in as well. */
export function callable(
  people: readonly { readonly id: string; readonly name: string; readonly login: string }[],
): Callable[] {
  const names = new CallNames(people.map(({ id, name, login }) => ({ id, name, apart: () => [login] })));
  return people.map(({ id }) => ({ id, as: names.of(id) }));
}

const LETTER = /[\p{L}\p{N}]/u;

/** Who is named in a text: after an `@` that begins a word, by the longest name that stands there whole. */
export function namedIn(text: string, people: readonly Callable[]): Callable[] {
  const longestFirst = people.toSorted((a, b) => b.as.length - a.as.length);
  const low = text.toLocaleLowerCase();
  const found = new Map<string, Callable>();
  for (let at = low.indexOf("@"); at !== -1; at = low.indexOf("@", at + 1)) {
    if (at > 0 && LETTER.test(text[at - 1]!)) continue;
    const named = longestFirst.find(({ as }) => {
      const end = at + 1 + as.length;
      return low.startsWith(as.toLocaleLowerCase(), at + 1) && !LETTER.test(text[end] ?? " ");
    });
    if (named !== undefined) found.set(named.id, named);
  }
  return [...found.values()];
}
