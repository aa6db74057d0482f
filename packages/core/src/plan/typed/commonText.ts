import { parseDuration } from "../../time/duration.ts";
import type { Link } from "../schema.ts";

type LinkType = NonNullable<Link["type"]>;

/** A lag as it was written: working minutes, or percent of how long the one before lasts. */
export type CommonLag = { readonly minutes: number } | { readonly percent: number };

/** One predecessor as spreadsheets commonly say it: which row, and how it is linked. */
export interface CommonLink {
  readonly key: string;
  readonly type: LinkType;
  readonly lag: CommonLag | null;
}

/** Someone at work as spreadsheets commonly say it: a name, and perhaps a share of their time or hours. */
export interface CommonWork {
  readonly name: string;
  readonly unitsPercent?: number;
  readonly minutes?: number;
}

export type CommonRead<T> = { readonly parts: readonly T[] } | { readonly fault: string };

/** Several commas in a cell can be taken together in many ways; beyond this nobody meant a list. */
const MOST_PIECES = 60;

/**
 * Parts a text by `;` and ends of lines, and by `,` where that leaves parts that mean something: a comma may also part
 * decimals, or a family name from a first name.
 * @param read gives what a part means, `null` where it means nothing
 * @param signs whether commas part
 */
function partsThatMean<T>(
  text: string,
  read: (part: string) => T | null,
  signs: "commas too" | "no commas" = "commas too",
): CommonRead<T> {
  const parts: T[] = [];
  for (const whole of text.split(/[;\n]/)) {
    if (whole.trim() === "") continue;
    const pieces = signs === "commas too" ? whole.split(",") : [whole];
    if (pieces.length > MOST_PIECES) return { fault: `“${whole.trim().slice(0, 60)} …” lists too much` };
    for (let from = 0; from < pieces.length;) {
      let found: { readonly part: T; readonly to: number } | null = null;
      for (let to = pieces.length; to > from && found === null; to--) {
        const part = pieces.slice(from, to).join(",").trim();
        const meant = part === "" ? null : read(part);
        if (meant !== null) found = { part: meant, to };
      }
      if (found === null) {
        if (pieces[from]!.trim() !== "") return { fault: `“${pieces[from]!.trim()}” means nothing here` };
        from++;
      } else {
        parts.push(found.part);
        from = found.to;
      }
    }
  }
  return { parts };
}

const LAG = String.raw`(?:\s*([+\-−–])\s*(\d[\d.,:]*\s*(?:%|[a-z]*)))?`;
const TYPED = new RegExp(String.raw`^(.+?)\s*(FS|SS|FF|SF)${LAG}$`, "i");
const UNTYPED = new RegExp(String.raw`^(.+?)${LAG}$`, "i");

function lagOf(sign: string | undefined, length: string | undefined, dayMinutes: number): CommonLag | null | "none" {
  if (sign === undefined || length === undefined) return null;
  const direction = sign === "+" ? 1 : -1;
  const percent = /^([\d.,]+)\s*%$/.exec(length);
  if (percent !== null) return { percent: direction * Number(percent[1]!.replace(",", ".")) };
  const minutes = parseDuration(length, dayMinutes, "days");
  return minutes === null ? "none" : { minutes: direction * minutes };
}

/** One predecessor: the whole text as the name of a row, else a row, a kind of link and a lag. */
function readCommonLink(text: string, dayMinutes: number, isKey: (key: string) => boolean): CommonLink | null {
  if (isKey(text)) return { key: text, type: "FS", lag: null };
  for (const shape of [UNTYPED, TYPED]) {
    const match = shape.exec(text);
    if (match === null) continue;
    const typed = shape === TYPED;
    const lag = lagOf(match[typed ? 3 : 2], match[typed ? 4 : 3], dayMinutes);
    if (lag !== "none" && isKey(match[1]!))
      return { key: match[1]!, type: typed ? (match[2]!.toUpperCase() as LinkType) : "FS", lag };
  }
  return readOwnWords(text, dayMinutes, isKey);
}

/** How the plan's own table says links of other kinds. */
const OWN_WORDS = new RegExp(String.raw`^(with|ends with|ends as)\s+(.+?)(?:\s+starts)?${LAG}$`, "i");

/** One predecessor in the words of the plan's own table: `with Pump + 2d`, `ends with Survey`. */
function readOwnWords(text: string, dayMinutes: number, isKey: (key: string) => boolean): CommonLink | null {
  const match = OWN_WORDS.exec(text);
  if (match === null || !isKey(match[2]!)) return null;
  const lag = lagOf(match[3], match[4], dayMinutes);
  const type = ({ with: "SS", "ends with": "FF", "ends as": "SF" } as const)[match[1]!.toLowerCase() as "with"];
  return lag === "none" ? null : { key: match[2]!, type, lag };
}

/**
 * Reads predecessors as they are commonly written in spreadsheets: `3`, `3;5`, `3, 5`, `3FS+2d`, `5SS-1w`, `7FF`,
 * `3FS+50%`, with whatever rows are called by (numbers, outline numbers, ids, names); or in the words of the plan's own
 * table. Common practice, no source.
 * @param dayMinutes minutes of a day in which lags count
 * @param isKey whether something is what a row is called by
 */
export const readCommonLinks = (
  text: string,
  dayMinutes: number,
  isKey: (key: string) => boolean,
): CommonRead<CommonLink> => partsThatMean(text, (part) => readCommonLink(part, dayMinutes, isKey));

const SHARE = /^(.+?)\s*(?:[[(]\s*|\s+(?:at\s+)?)(\d+(?:[.,]\d+)?)\s*%\s*[\])]?$/i;
const HOURS = /^(.+?)\s*(?:[[(]\s*|\s+)(\d[\d.,:]*\s*(?:h|hrs?|hours?|d|days?|w|weeks?|m|min))\s*[\])]?$/i;

function readCommonWorker(text: string, dayMinutes: number, isName: (name: string) => boolean): CommonWork | null {
  if (isName(text)) return { name: text };
  const share = SHARE.exec(text);
  if (share !== null) {
    const unitsPercent = Number(share[2]!.replace(",", "."));
    const who = readCommonWorker(share[1]!, dayMinutes, isName);
    return who === null || unitsPercent <= 0 || unitsPercent > 10_000 ? null : { ...who, unitsPercent };
  }
  const hours = HOURS.exec(text);
  if (hours === null) return null;
  const minutes = parseDuration(hours[2]!.replace(/hrs?$/i, "h").replace(/min$/i, "m"), dayMinutes, "hours");
  const who = readCommonWorker(hours[1]!, dayMinutes, isName);
  return minutes === null || who === null ? null : { ...who, minutes };
}

/** Words that could be someone's name: letters, and none of the signs of hours and shares. */
const NAME_LIKE = /^[^\d%[\]()]*\p{L}[^\d%[\]()]*$/u;

/**
 * Reads who works on something as it is commonly written in spreadsheets: `Ann; Bob`, `Ann, Bob`, `Ann 50%`,
 * `Ann[50%]`, `Bob 16h`, `Bob (2 d)`. Common practice, no source.
 * @param dayMinutes minutes of a day of work
 * @param isKnown whether someone is called so; what is not may still be somebody
 * @param commas whether commas part people; where only `;` does, they stand within names: `Moss, Brigid`
 */
export function readCommonWork(
  text: string,
  dayMinutes: number,
  isKnown: (name: string) => boolean,
  commas = true,
): CommonRead<CommonWork> {
  const isName = (name: string): boolean => isKnown(name) || (NAME_LIKE.test(name) && !(commas && name.includes(",")));
  const signs = commas ? "commas too" : "no commas";
  return partsThatMean(text, (part) => readCommonWorker(part, dayMinutes, isName), signs);
}

/** A name as it is compared with others: its words in any order, without capitals and accents. */
export const nameInAnyOrder = (name: string): string =>
  name
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== "")
    .sort()
    .join(" ");
