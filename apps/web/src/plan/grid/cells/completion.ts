/** What might be meant by what is being typed, and what typing it would make of the text. */
export interface Completion {
  readonly offer: string;
  readonly text: string;
}

const MOST = 8;
const LINK_WORDS = /^(ends with|ends as|with)\s+/i;

/**
 * How well a name answers to what was typed: 0 begins with it, 1 has a word that does, 2 has it somewhere; 3 not at
 * all.
 */
function fit(name: string, typed: string): number {
  const plain = name.toLowerCase();
  if (plain.startsWith(typed)) return 0;
  if (plain.split(/\s+/).some((word) => word.startsWith(typed))) return 1;
  return plain.includes(typed) ? 2 : 3;
}

/**
 * Names that answer to the part being typed, best first.
 * @param several whether parts are divided by `;`; the last one is being typed
 */
export function completionsOf(text: string, offers: readonly string[], several: boolean): Completion[] {
  const cut = several ? text.lastIndexOf(";") + 1 : 0;
  const part = text.slice(cut);
  const lead = /^\s*/.exec(part)![0];
  const words = several ? (LINK_WORDS.exec(part.trimStart())?.[0] ?? "") : "";
  const typed = part.trimStart().slice(words.length).toLowerCase();
  if (typed === "") return [];
  const before = `${text.slice(0, cut)}${cut > 0 && lead === "" ? " " : lead}${words}`;
  return [...new Set(offers)]
    .map((offer) => ({ offer, rank: fit(offer, typed) }))
    .filter(({ offer, rank }) => rank < 3 && offer.toLowerCase() !== typed)
    .sort((a, b) => a.rank - b.rank || a.offer.length - b.offer.length)
    .slice(0, MOST)
    .map(({ offer }) => ({ offer, text: `${before}${offer}` }));
}
