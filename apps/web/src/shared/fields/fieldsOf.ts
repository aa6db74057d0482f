import type { FormEvent } from "react";

/**
 * The texts in the named fields of a form that is submitted, instead of being sent by the browser; boxes alike in name
 * by `all`.
 */
export interface Fields {
  readonly text: (name: string) => string;
  readonly all: (name: string) => string[];
}

/** Reads a form as it is submitted. */
export function fieldsOf(event: FormEvent<HTMLFormElement>): Fields {
  event.preventDefault();
  const data = new FormData(event.currentTarget);
  return { text: (name) => String(data.get(name) ?? ""), all: (name) => data.getAll(name).map(String) };
}
