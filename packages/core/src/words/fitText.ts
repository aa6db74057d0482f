/**
 * What no text may hold: signs that steer a terminal and are seen by nobody, save tabs and breaks of lines; and those
 * that turn the direction of what follows them, names of others included (Unicode Technical Report 36, 2.10; Unicode
 * Technical Standard 55). Marks of direction that turn nothing after them stay. Half a character is none.
 */
const UNFIT = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f\u202a-\u202e\u2066-\u2069]|\p{Surrogate}/u;
const ALL_UNFIT = new RegExp(UNFIT.source, "gu");
/** How spreadsheets and word processors write a break within a line. */
const BROKEN = /\u000b/g;

/** Why a text cannot be kept, to be read after what it is; `null` where it can. */
export function unfitness(text: string): string | null {
  const code = UNFIT.exec(text)?.[0].charCodeAt(0);
  if (code === undefined) return null;
  if (code >= 0xd800) return "holds half a character, as a text does that was cut off within one";
  const does = code > 0x7f ? "that turns the direction of writing" : "that cannot be shown";
  const named = `U+${code.toString(16).toUpperCase().padStart(4, "0")}`;
  return `holds an invisible character ${does} (${named}); type it anew, or paste it without formatting`;
}

/** A text without what it cannot keep, which other programs put into what is pasted, and no one sees. */
export const fitText = (text: string): string =>
  UNFIT.test(text) ? text.replace(BROKEN, "\n").replace(ALL_UNFIT, "") : text;

/** A value with all its texts so; the same object where nothing has to go. */
export function fitTexts<T>(value: T): T {
  if (typeof value === "string") return fitText(value) as T;
  if (value === null || typeof value !== "object") return value;
  let copy: Record<string, unknown> | undefined;
  for (const [name, each] of Object.entries(value) as [string, unknown][]) {
    const kept = fitTexts(each);
    if (Object.is(kept, each)) continue;
    copy ??= (Array.isArray(value) ? [...(value as unknown[])] : { ...value }) as Record<string, unknown>;
    copy[name] = kept;
  }
  return (copy ?? value) as T;
}
