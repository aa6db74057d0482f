/** A piece of what was said: words, somebody named, or a link, within the application or out of it. */
export type Part =
  | { readonly kind: "words"; readonly text: string }
  | { readonly kind: "name"; readonly text: string }
  | { readonly kind: "page"; readonly text: string; readonly to: string }
  | { readonly kind: "out"; readonly text: string; readonly to: string };

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

/** `[what it is called](/its/page)`, or an address that is typed as it is, without what ends the sentence after it. */
const LINK = String.raw`\[([^\]\n]{1,200})\]\((\/(?!\/)[^\s()\\]{0,500})\)|(https?:\/\/[^\s<>"]{1,500}[^\s<>".,;:!?)])`;

/** An address as a link: within the application where it is of the same place. */
function linkOf(address: string, origin: string): Part {
  const within = address.startsWith(`${origin}/`) ? address.slice(origin.length) : null;
  return within === null
    ? { kind: "out", text: address, to: address }
    : { kind: "page", text: within.length > 40 ? `${within.slice(0, 40)}…` : within, to: within };
}

/**
 * What was said, in pieces; put together they say all of it.
 * @param named the names that are called in it
 * @param origin where the application is, as `https://plans.example.org`
 */
export function partsOf(text: string, named: readonly string[], origin: string): Part[] {
  const names = named.toSorted((a, b) => b.length - a.length).map((name) => `@${escaped(name)}`);
  const pattern = new RegExp([LINK, ...(names.length === 0 ? [] : [`(${names.join("|")})`])].join("|"), "giu");
  const parts: Part[] = [];
  let at = 0;
  for (const match of text.matchAll(pattern)) {
    const [whole, label, page, address] = match;
    if (match.index > at) parts.push({ kind: "words", text: text.slice(at, match.index) });
    if (page !== undefined) parts.push({ kind: "page", text: label!, to: page });
    else if (address !== undefined) parts.push(linkOf(address, origin));
    else parts.push({ kind: "name", text: whole });
    at = match.index + whole.length;
  }
  if (at < text.length) parts.push({ kind: "words", text: text.slice(at) });
  return parts;
}

/** What is being typed after a sign that calls somebody (`@`) or something (`#`). */
export interface Term {
  readonly sign: "@" | "#";
  readonly typed: string;
  /** Where the sign stands. */
  readonly from: number;
}

/** The term that the caret stands at the end of; `null` where it is in no such. */
export function termAt(text: string, caret: number): Term | null {
  const match = /(?:^|[\s(])([@#])([^@#\n]{0,60})$/.exec(text.slice(0, caret));
  if (match === null) return null;
  const typed = match[2]!;
  return { sign: match[1] as Term["sign"], typed, from: caret - typed.length - 1 };
}

/** The text with a term completed, and where the caret stands then. */
export function completed(text: string, { from, typed }: Term, by: string): { text: string; caret: number } {
  const rest = text.slice(from + 1 + typed.length);
  const gap = /^[\s.,;:!?)]/.test(rest) ? "" : " ";
  return { text: `${text.slice(0, from)}${by}${gap}${rest}`, caret: from + by.length + gap.length };
}
