import { createRequire } from "node:module";
import { openSync, type Font } from "fontkit";

const require = createRequire(import.meta.url);
const ours = (family: string, style: string, name: string): string =>
  require.resolve(`@expo-google-fonts/${family}/${style}/${name}_${style}.ttf`);
/** Drawn plainly, and with nearly every letter there is. */
const ANY_LETTER = require.resolve("@fontsource/unifont/files/unifont-latin-400-normal.woff");

/** The fonts of paper. */
export const FONTS = {
  Text: {
    normal: ours("source-sans-3", "400Regular", "SourceSans3"),
    bold: ours("source-sans-3", "600SemiBold", "SourceSans3"),
    italics: ours("source-sans-3", "400Regular_Italic", "SourceSans3"),
    bolditalics: ours("source-sans-3", "600SemiBold_Italic", "SourceSans3"),
  },
  Head: {
    normal: ours("besley", "500Medium", "Besley"),
    bold: ours("besley", "600SemiBold", "Besley"),
  },
  Any: { normal: ANY_LETTER, bold: ANY_LETTER },
};
export type FontName = keyof typeof FONTS;

/** Texts of these letters alone are in every font. */
const PLAIN = /^[\n\x20-\x7e\u00a0-\u00ff]*$/;
/** What is not drawn: controls, and marks that only say how the letter before is drawn. */
const UNDRAWN = /[\p{Cc}\u200b-\u200d\ufe00-\ufe0f]/u;

const LETTERS = new Intl.Segmenter("en", { granularity: "grapheme" });

const opened = new Map<FontName, Font>();
function fontOf(name: FontName): Font {
  const font = opened.get(name) ?? (openSync(FONTS[name].normal) as Font);
  opened.set(name, font);
  return font;
}

const hasLetters = (name: FontName, text: string): boolean =>
  [...text].every((sign) => UNDRAWN.test(sign) || fontOf(name).hasGlyphForCodePoint(sign.codePointAt(0)!));

/** A letter that no font has, spelled: what cannot be drawn is named, and not left out. */
const spelled = (letter: string): string =>
  [...letter].map((sign) => `[U+${sign.codePointAt(0)!.toString(16).toUpperCase().padStart(4, "0")}]`).join("");

/** Letters that stand together in one font. */
export interface Run {
  readonly text: string;
  readonly font: FontName;
}

/** The font of a piece of text: its own as long as that has all of it, else that of texts, else one of nearly all. */
const fontFor = (piece: string, own: FontName): FontName | undefined =>
  ([own, "Text", "Any"] as const).find((name) => hasLetters(name, piece));

/** A word in one font if there is one for it, else letter by letter. */
function wordIn(word: string, own: FontName): Run[] {
  const font = fontFor(word, own);
  if (font !== undefined) return [{ text: word, font }];
  return Array.from(LETTERS.segment(word), ({ segment }) => {
    const found = fontFor(segment, own);
    return found === undefined ? { text: spelled(segment), font: own } : { text: segment, font: found };
  });
}

/** A text in fonts that have its letters. */
export function runsOf(text: string, own: FontName): Run[] {
  if (PLAIN.test(text)) return [{ text, font: own }];
  const runs: { text: string; font: FontName }[] = [];
  for (const word of text.split(/(?<=\s)(?=\S)/))
    for (const run of wordIn(word, own)) {
      const last = runs.at(-1);
      if (last?.font === run.font) last.text += run.text;
      else runs.push({ ...run });
    }
  return runs;
}

/** A text of a document: itself where its own font has all of it, else its runs. */
function lettered(text: string, own: FontName): string | Run[] {
  const runs = runsOf(text, own);
  return runs.every(({ font }) => font === own) ? runs.map(({ text }) => text).join("") : runs;
}

/** What of a node of a document holds others. */
const HOLDING: ReadonlySet<string> = new Set(["text", "stack", "columns", "table", "body", "toc", "title"]);

/**
 * A document as it is to be drawn, each text of it in fonts that have its letters.
 * @param fontOfStyle the font that a style gives, where it gives one
 */
export function inFonts<T>(node: T, fontOfStyle: Readonly<Record<string, FontName>>, own: FontName = "Text"): T {
  if (typeof node === "string") {
    const text = lettered(node, own);
    return (typeof text === "string" ? text : { text }) as T;
  }
  if (Array.isArray(node)) return node.map((each: unknown) => inFonts(each, fontOfStyle, own)) as T;
  if (typeof node !== "object" || node === null) return node;
  const { font, style } = node as { readonly font?: FontName; readonly style?: string };
  const mine = font ?? (style === undefined ? undefined : fontOfStyle[style]) ?? own;
  const parts = Object.entries(node).map(([key, value]: [string, unknown]) => {
    if (!HOLDING.has(key)) return [key, value];
    return [key, typeof value === "string" ? lettered(value, mine) : inFonts(value, fontOfStyle, mine)];
  });
  return Object.fromEntries(parts) as T;
}
