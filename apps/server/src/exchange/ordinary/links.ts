import { countWords, readCommonLinks, type CommonLag, type CommonLink } from "@chronometra/core";
import type { ImportView, RowKeys } from "@chronometra/contract";
import type { Loose } from "../match/readTables.ts";
import { rowKeysOf, type RowCalls } from "./rowKeys.ts";
import { against, DAY, note, type Sense } from "./sense.ts";

const WAYS: Readonly<Record<RowKeys, string>> = {
  ids: "numbers or ids of rows",
  outline: "outline numbers",
  rows: "the place of a row in the list",
  lines: "rows of the spreadsheet",
};

/** A lag in minutes; a share of how long the one before lasts is taken once. */
const lagMinutes = (lag: CommonLag | null, length: number | undefined): number =>
  lag === null ? 0 : "minutes" in lag ? lag.minutes : Math.round(((length ?? 0) * lag.percent) / 100);

/** Why a row cannot come after another; `null` where it can. */
function faultOf(sense: Sense, key: string, from: number | "several" | null, at: number): string | null {
  if (from === "several") return `“${key}” is what several rows are called; write its number`;
  if (from === at) return `an activity cannot come after itself (“${key}”)`;
  if (sense.isBranch(from!))
    return `“${key}” is a branch, and only activities and milestones are linked; name the last of them`;
  return sense.isBranch(at) ? "a branch cannot come after something; write it at its first activity" : null;
}

function linkOf({ type, lag }: CommonLink, from: string, to: string, length: number | undefined): Loose {
  const minutes = lagMinutes(lag, length);
  return { from, to, ...(type === "FS" ? {} : { type }), ...(minutes === 0 ? {} : { lagMinutes: minutes }) };
}

/** Whether two links to one row lead from the same in the same way. */
const saysSame = (a: Loose, b: Loose): boolean => a["from"] === b["from"] && a["type"] === b["type"];

/**
 * Links between rows, read from what stands in their column of predecessors.
 * @param lengths minutes that each row lasts, where known
 */
export function linksIn(
  sense: Sense,
  calls: RowCalls,
  lengths: readonly (number | undefined)[],
): { links: Loose[]; question: ImportView["rowKeysQuestion"] } {
  const texts = sense.rows.flatMap(({ fields }, at) =>
    fields["predecessors"] === undefined ? [] : [{ at, text: fields["predecessors"] as string }],
  );
  if (texts.length === 0) return { links: [], question: null };
  const { taken, question } = rowKeysOf(texts, calls, sense.answers.rowKeys);
  const links: Loose[] = [];
  let shares = 0;
  for (const { at, text } of texts) {
    const read = readCommonLinks(text, DAY, (key) => calls.find(key, taken) !== null);
    if ("fault" in read) {
      const how = "it is no row of this file, no lag and no kind of link; write as 3, 3FS+2d or a name";
      against(sense, at, "predecessors", `${read.fault}: ${how}`);
      continue;
    }
    const own: Loose[] = [];
    for (const part of read.parts) {
      const from = calls.find(part.key, taken);
      const fault = faultOf(sense, part.key, from, at);
      if (fault !== null) against(sense, at, "predecessors", fault);
      else {
        if (part.lag !== null && "percent" in part.lag) shares++;
        const link = linkOf(part, sense.ids[from as number]!, sense.ids[at]!, lengths[from as number]);
        if (!own.some((each) => saysSame(each, link))) own.push(link);
      }
    }
    links.push(...own);
  }
  note(sense, "predecessors", `What comes before was read as ${WAYS[taken]}, or as names.`);
  if (shares > 0)
    note(
      sense,
      "predecessors",
      `${countWords(shares, "lag is", "lags are")} a share of how long the one before lasts, taken as days once: it does not change with it.`,
    );
  return { links, question };
}
