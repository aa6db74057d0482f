/** Marks that stand above or below a letter once it is taken apart. */
const MARKS = /\p{M}+/gu;
const WORD = /[\p{L}\p{N}]+/gu;
const LONGEST = 40;
const MOST = 24;

/** The words of a name as they are kept and looked for: small letters without marks, each once, in the order of the name. */
export function nameWords(name: string): string[] {
  const plain = name.normalize("NFD").replace(MARKS, "").toLowerCase();
  return [...new Set([...plain.matchAll(WORD)].map(([word]) => [...word].slice(0, LONGEST).join("")))].slice(0, MOST);
}
