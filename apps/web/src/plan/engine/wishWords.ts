import { WISHES, type Change } from "@chronometra/core";
import { readDate } from "../../shared/words/words.ts";
import type { SheetRow } from "./sheet.ts";

type Wish = NonNullable<SheetRow["wish"]>;

const BY_WORDS = new Map(Object.entries(WISHES).map(([type, words]) => [words, type as Wish["type"]]));
const PATTERN =
  /^(finish not before|not before|start by|start on|finish by|finish on|by|on)?\s*([^:]+?)\s*(?::\s*(.*))?$/i;
/** What is short for what. */
const SHORT: Readonly<Record<string, string>> = { "": "not before", by: "finish by", on: "start on" };

/**
 * Reads a date wish: `not before 4 May: crane`, `start on 2026-05-04`, `finish by 1 June`; a bare date is "not before".
 * @param year the year of a date that names none
 */
export function readWish(text: string, year: string): Wish | null | { readonly fault: string } {
  const plain = text.trim();
  if (plain === "") return null;
  const match = PATTERN.exec(plain);
  const date = match === null ? null : readDate(match[2]!, year);
  if (match === null || date === null)
    return {
      fault:
        "Write a wish as “not before 4 May 2026: reason”; start on, start by, finish on, finish by and finish not before go as well.",
    };
  const said = (match[1] ?? "").toLowerCase();
  const reason = match[3]?.trim() ?? "";
  return { type: BY_WORDS.get(SHORT[said] ?? said)!, date, ...(reason === "" ? {} : { reason }) };
}

/** The change that sets a wish. */
export const wishChange = (activity: string, wish: Wish | null): Change => ({ type: "setWish", activity, wish });
