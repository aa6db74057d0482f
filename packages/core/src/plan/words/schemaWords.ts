import type { z } from "zod";

/** The innermost thing a path points to, or undefined. */
export function valueAt(root: unknown, path: readonly PropertyKey[]): unknown {
  let at = root;
  for (const part of path) {
    if (typeof at !== "object" || at === null || !Object.hasOwn(at, part)) return undefined;
    at = (at as Record<PropertyKey, unknown>)[part];
  }
  return at;
}

const shown = (value: unknown): string => {
  const text = JSON.stringify(value) ?? String(value);
  return text.length > 60 ? `${text.slice(0, 57)}...` : text;
};

const TYPES: Readonly<Record<string, string>> = {
  int: "a whole number",
  number: "a number",
  string: "a text",
  boolean: "true or false",
  array: "a list",
  object: "an object",
  record: "an object",
  date: "a date",
};

/**
 * What is wrong with a value, in words that go on from its name: "is missing", "must be a whole number, not 1.5". Words
 * that a schema gives itself stand as they are.
 * @param value what stands where the issue points to
 */
export function wordsOf(issue: z.core.$ZodIssue, value: unknown): string {
  if (value === undefined && issue.code !== "unrecognized_keys" && issue.code !== "custom") return "is missing";
  if (value === null) return "is null; leave the field out instead";
  switch (issue.code) {
    case "invalid_type":
      return `must be ${TYPES[issue.expected] ?? issue.expected}, not ${shown(value)}`;
    case "invalid_value":
      return `must be ${issue.values.map((v) => JSON.stringify(v)).join(" or ")}, not ${shown(value)}`;
    case "too_small":
      return `must be ${issue.origin === "string" ? `at least ${issue.minimum} character long` : `${issue.inclusive === false ? "more than" : "at least"} ${issue.minimum}`}, not ${shown(value)}`;
    case "too_big":
      return `must be ${issue.origin === "string" ? `at most ${issue.maximum} characters long` : `at most ${issue.maximum}`}, not ${shown(value)}`;
    case "custom":
    case "invalid_format":
      return `${issue.message}, not ${shown(value)}`;
    case "unrecognized_keys":
      return `has ${issue.keys.map((name) => `"${name}"`).join(", ")}, which ${issue.keys.length === 1 ? "is no field" : "are no fields"} here`;
    case "invalid_union":
      return `is none of the kinds that are known: ${shown(value)}`;
    case "not_multiple_of":
      return `must be a multiple of ${issue.divisor}, not ${shown(value)}`;
    default:
      return `cannot be ${shown(value)}`;
  }
}
