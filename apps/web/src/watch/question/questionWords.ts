import {
  OWN_PREFIX,
  WATCH_FIELDS,
  type WatchAbout,
  type WatchChoices,
  type WatchCondition,
  type WatchField,
  type WatchQuestion,
  type WatchType,
} from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import {
  dateWords,
  dayWords,
  driftWords,
  marginWords,
  money,
  percentWords,
  readDate,
} from "../../shared/words/words.ts";

export type Is = WatchCondition["is"];

const NUMERIC: readonly [Is, string][] = [
  ["atLeast", "is at least"],
  ["below", "is below"],
  ["empty", "is empty"],
  ["filled", "is filled"],
];
const CHOSEN: readonly [Is, string][] = [
  ["any", "is"],
  ["none", "is not"],
  ["empty", "is empty"],
  ["filled", "is filled"],
];

/** What a field of a type can be asked, in words. */
export const CONDITIONS: Readonly<Record<WatchType, readonly (readonly [Is, string])[]>> = {
  text: [
    ["has", "contains"],
    ["hasNot", "does not contain"],
    ["empty", "is empty"],
    ["filled", "is filled"],
  ],
  date: [
    ["within", "lies between"],
    ["before", "lies before"],
    ["after", "lies after"],
    ["empty", "is empty"],
    ["filled", "is filled"],
  ],
  number: NUMERIC,
  days: NUMERIC,
  hours: NUMERIC,
  amount: NUMERIC,
  percent: NUMERIC,
  choice: CHOSEN,
  person: CHOSEN,
  role: CHOSEN,
  yesNo: [
    ["yes", "is so"],
    ["no", "is not so"],
  ],
};

export const ABOUT_WORDS: Readonly<Record<WatchAbout, string>> = {
  activities: "Activities and milestones",
  time: "Time booked",
  costs: "Costs",
  risks: "Risks",
};
export const COUNTED: Readonly<Record<WatchAbout, readonly [string, string]>> = {
  activities: ["activity", "activities"],
  time: ["entry", "entries"],
  costs: ["cost", "costs"],
  risks: ["effect", "effects"],
};

const OWN_TYPES = { text: "text", number: "number", date: "date", choice: "choice", yesNo: "yesNo" } as const;

/** All fields of what is asked about, own fields after the others. */
export function fieldsOf(about: WatchAbout, choices: WatchChoices | undefined): Readonly<Record<string, WatchField>> {
  const own =
    about !== "activities"
      ? []
      : (choices?.ownFields ?? []).map(({ name, type, choices: of }): [string, WatchField] => [
          `${OWN_PREFIX}${name}`,
          {
            head: name,
            type: OWN_TYPES[type],
            ...(type === "choice" ? { choices: Object.fromEntries(of.map((each) => [each, each])) } : {}),
          },
        ]);
  return { ...WATCH_FIELDS[about], ...Object.fromEntries(own) };
}

/** What can be chosen for a field: id and name. */
export function choicesOf(
  name: string,
  field: WatchField,
  choices: WatchChoices | undefined,
): readonly { readonly id: string; readonly name: string }[] {
  if (field.choices !== undefined) return Object.entries(field.choices).map(([id, words]) => ({ id, name: words }));
  if (choices === undefined) return [];
  const plain = (names: readonly string[]) => names.map((each) => ({ id: each, name: each }));
  if (field.type === "person") return [{ id: "me", name: "me" }, { id: "team", name: "my team" }, ...choices.people];
  if (field.type === "role") return plain(choices.roles);
  switch (name) {
    case "project":
      return choices.projects;
    case "programme":
      return choices.programmes;
    case "manager":
      return choices.managers;
    case "category":
      return plain(choices.categories);
    default:
      return [];
  }
}

/** A condition of a field that says nothing yet beyond what it takes to be one. */
export function conditionOf(field: string, is: Is): WatchCondition {
  switch (is) {
    case "empty":
    case "filled":
    case "yes":
    case "no":
      return { field, is };
    case "has":
    case "hasNot":
      return { field, is, text: "…" };
    case "atLeast":
    case "below":
      return { field, is, number: 0 };
    case "within":
      return { field, is, from: "today", to: "today+30" };
    case "before":
    case "after":
      return { field, is, date: "today" };
    case "any":
    case "none":
      return { field, is, of: ["…"] };
    default:
      return is satisfies never;
  }
}

/** `today+30` as "in 30 days", a date as a date. */
export function movingDateWords(text: string): string {
  if (!text.startsWith("today")) return dateWords(text);
  const days = Number(text.slice(5) || 0);
  return days === 0 ? "today" : days > 0 ? `in ${days} days` : `${-days} days ago`;
}

/** "in 30 days", "7 days ago", "today", "today+30" or a date, as a condition keeps it; `null` where it is none. */
export function readMovingDate(text: string, year: string): string | null {
  const plain = text.trim().toLowerCase();
  const kept = /^today\s*(?:([+-])\s*(\d{1,4}))?$/.exec(plain);
  if (kept !== null)
    return kept[2] === undefined || Number(kept[2]) === 0 ? "today" : `today${kept[1]}${Number(kept[2])}`;
  const ahead = /^in (\d{1,4}) days?$/.exec(plain);
  const ago = /^(\d{1,4}) days? ago$/.exec(plain);
  const days = ahead !== null ? Number(ahead[1]) : ago !== null ? -Number(ago[1]) : null;
  if (days !== null) return days === 0 ? "today" : `today${days > 0 ? "+" : ""}${days}`;
  return readDate(text, year);
}

/** A value of a row as people read it. */
export function valueWords(
  type: WatchType,
  value: string | number | boolean | null,
  digits: number,
  name = "",
): string {
  if (value === null) return "–";
  if (typeof value !== "number") return type === "date" ? dateWords(String(value)) : String(value);
  switch (type) {
    case "amount":
      return money(value, digits);
    case "hours":
      return value === 0 ? "–" : formatHours(value);
    case "percent":
      return percentWords(value / 100);
    case "days":
      if (name === "drift") return driftWords(value);
      if (name === "margin") return marginWords(value);
      return dayWords(value);
    default:
      return String(value);
  }
}

/** A question as text of an address. */
export function questionText(question: WatchQuestion): string {
  const bytes = new TextEncoder().encode(JSON.stringify(question));
  return btoa(String.fromCharCode(...bytes))
    .replaceAll("+", "-")
    .replaceAll("/", "_")
    .replace(/=+$/, "");
}

/** The question that a text of an address holds; `null` where it holds none. */
export function questionIn(text: string): unknown {
  try {
    const bytes = Uint8Array.from(atob(text.replaceAll("-", "+").replaceAll("_", "/")), (sign) => sign.charCodeAt(0));
    return JSON.parse(new TextDecoder().decode(bytes)) as unknown;
  } catch {
    return null;
  }
}
