/** Deeper than anything that is asked for, and less than what takes long to look through. */
const MAX_DEPTH = 64;

/**
 * What no text may hold: signs that steer a terminal and are seen by nobody, save tabs and breaks of lines; and those
 * that turn the direction of what follows them, names of others included (Unicode Technical Report 36, 2.10; Unicode
 * Technical Standard 55). Marks of direction that turn nothing after them stay.
 */
const UNFIT = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f\u202a-\u202e\u2066-\u2069]/;

/** Why a text cannot be kept, to be read after what it is; `null` where it can. */
export function unfitness(text: string): string | null {
  const sign = UNFIT.exec(text)?.[0];
  if (sign !== undefined) {
    const code = sign.charCodeAt(0);
    const does = code > 0x7f ? "that turns the direction of writing" : "that cannot be shown";
    return `holds an invisible character ${does} (U+${code.toString(16).toUpperCase().padStart(4, "0")}); type it anew, or paste it without formatting`;
  }
  return /\p{Surrogate}/u.test(text) ? "holds half a character, as a text does that was cut off within one" : null;
}

/** A text of a sheet without what it cannot keep, which programs leave there and no one sees. */
export const fitted = (text: string): string =>
  unfitness(text) === null
    ? text
    : text.replace(/\u000b/g, "\n").replace(new RegExp(`${UNFIT.source}|\\p{Surrogate}`, "gu"), "");

/** Where in a value something cannot be kept, and why. */
export interface Unfit {
  readonly path: readonly string[];
  readonly why: string;
}

/** The first text of a value, names of fields included, that cannot be kept; or that it is nested too deep. */
export function findUnfit(value: unknown): Unfit | null {
  // Not by calling itself: what was sent may be nested deeper than calls can be.
  const waiting: { value: unknown; path: readonly string[] }[] = [{ value, path: [] }];
  for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
    const { value, path } = next;
    if (typeof value === "string") {
      const why = unfitness(value);
      if (why !== null) return { path, why };
    } else if (value !== null && typeof value === "object") {
      if (path.length >= MAX_DEPTH) return { path: [], why: `What was sent is nested deeper than ${MAX_DEPTH} levels` };
      const isList = Array.isArray(value);
      for (const [name, each] of Object.entries(value)) {
        const why = isList ? null : unfitness(name);
        if (why !== null) return { path, why: `a name in it ${why}` };
        if (each !== null && (typeof each === "object" || typeof each === "string"))
          waiting.push({ value: each, path: [...path, name] });
      }
    }
  }
  return null;
}
