import MiniSearch from "minisearch";
import type { DataSource } from "typeorm";

const FRESH_MILLISECONDS = 60_000;
const READ_AS_MOST = 4;
/** Shorter words have too many neighbours to guess among. */
const LEAST_LETTERS = 3;

interface Dictionary {
  readonly words: MiniSearch<{ id: string; word: string }>;
  readonly until: number;
}
const dictionaries = new WeakMap<DataSource, Promise<Dictionary>>();

async function readDictionary(database: DataSource): Promise<Dictionary> {
  // Numbers are not misspelt words: another number is another thing.
  const rows = (await database.query("select distinct word from find_word where word not regexp '[0-9]'")) as {
    word: string;
  }[];
  const words = new MiniSearch<{ id: string; word: string }>({ fields: ["word"], tokenize: (text) => [text] });
  words.addAll(rows.map(({ word }) => ({ id: word, word })));
  return { words, until: Date.now() + FRESH_MILLISECONDS };
}

/** All words that names have, up to a minute old. */
async function dictionaryOf(database: DataSource): Promise<Dictionary> {
  const known = await dictionaries.get(database);
  if (known !== undefined && known.until > Date.now()) return known;
  const reading = readDictionary(database);
  dictionaries.set(database, reading);
  reading.catch(() => dictionaries.delete(database));
  return reading;
}

/**
 * Words that someone may have meant by one that no name has: those that come to it, or begin with what comes to it, by a letter or
 * two changed, missing or too many; the nearest first.
 */
export async function meantBy(database: DataSource, word: string): Promise<string[]> {
  if (word.length < LEAST_LETTERS || /\p{N}/u.test(word)) return [];
  const { words } = await dictionaryOf(database);
  const fuzzy = word.length < 5 ? 1 : 2;
  const whole = words.search(word, { fuzzy, prefix: false, processTerm: (term) => term });
  const begun =
    whole.length > 0 ? whole : words.search(word.slice(0, -1), { prefix: true, processTerm: (term) => term });
  return begun.slice(0, READ_AS_MOST).map(({ id }) => id as string);
}
