import { ROW_KEYS, type RowKeys } from "@chronometra/contract";
import { readCommonLinks } from "@chronometra/core";
import type { ReadRow } from "../match/readTables.ts";
import { DAY } from "./sense.ts";

const plain = (text: string): string => text.trim().toLowerCase();

/** What rows are called by in texts of the same file: each in one way, and by their names besides. */
export class RowCalls {
  private readonly byKey: Readonly<Record<RowKeys, ReadonlyMap<string, number>>>;
  private readonly byName = new Map<string, number[]>();

  /** @param outlines the outline number of each row, where it has one */
  constructor(rows: readonly ReadRow[], outlines: readonly (string | undefined)[]) {
    const map = (keyOf: (row: ReadRow, i: number) => string | undefined): Map<string, number> => {
      const found = new Map<string, number>();
      rows.forEach((row, i) => {
        const key = keyOf(row, i);
        if (key !== undefined && !found.has(plain(key))) found.set(plain(key), i);
      });
      return found;
    };
    this.byKey = {
      ids: map(({ fields }) => fields["id"] as string | undefined),
      outline: map((_row, i) => outlines[i]),
      rows: map((_row, i) => String(i + 1)),
      lines: map(({ line }) => String(line)),
    };
    rows.forEach(({ fields }, i) => {
      const name = plain((fields["name"] as string | undefined) ?? "");
      if (name !== "") this.byName.set(name, [...(this.byName.get(name) ?? []), i]);
    });
  }

  /** The row that is called so; `several` where a name is that of more than one, `null` where it is nobody's. */
  find(key: string, way: RowKeys): number | "several" | null {
    const row = this.byKey[way].get(plain(key)) ?? this.byKey[way].get(plain(key).replace(/\.$/, ""));
    if (row !== undefined) return row;
    const named = this.byName.get(plain(key)) ?? [];
    return named.length === 0 ? null : named.length === 1 ? named[0]! : "several";
  }

  has(way: RowKeys): boolean {
    return this.byKey[way].size > 0;
  }
}

interface Tried {
  readonly way: RowKeys;
  /** Texts of which a part is nobody's. */
  readonly unread: number;
  /** Links from a row that stands below the one they lead to, or to itself: rare in a list that people wrote. */
  readonly odd: number;
}

function tried(texts: readonly { readonly at: number; readonly text: string }[], calls: RowCalls, way: RowKeys): Tried {
  let [unread, odd] = [0, 0];
  for (const { at, text } of texts) {
    const read = readCommonLinks(text, DAY, (key) => calls.find(key, way) !== null);
    if ("fault" in read) unread++;
    else odd += read.parts.filter(({ key }) => Number(calls.find(key, way)) >= at).length;
  }
  return { way, unread, odd };
}

/**
 * What predecessors call rows by: the way in which most of them mean a row, and one above where it can be told.
 * @returns the way, those that fit as well, and a number that could mean several
 */
export function rowKeysOf(
  texts: readonly { readonly at: number; readonly text: string }[],
  calls: RowCalls,
  answered: RowKeys | undefined,
): { taken: RowKeys; question: { sample: string; taken: RowKeys; able: RowKeys[] } | null } {
  const tries = ROW_KEYS.filter((way) => calls.has(way)).map((way) => tried(texts, calls, way));
  const best = [...tries].sort((a, b) => a.unread - b.unread || a.odd - b.odd)[0];
  const taken = answered ?? best?.way ?? "rows";
  const able = tries.filter(({ unread }) => unread === best!.unread).map(({ way }) => way);
  const sample = texts.find(({ text }) => {
    const numbers = text.match(/\d+(\.\d+)*/g) ?? [];
    return numbers.some((number) => new Set(able.map((way) => calls.find(number, way))).size > 1);
  });
  return { taken, question: sample === undefined || able.length < 2 ? null : { sample: sample.text, taken, able } };
}
