import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { MATTER_KIND_WORDS, type Found } from "@chronometra/contract";
import { useMemo } from "react";
import { call } from "../shared/session/api.ts";
import type { Term } from "./words.ts";

/** Somebody or something that can be called. */
export interface Candidate {
  readonly key: string;
  readonly name: string;
  readonly aside: string;
  /** What is put into the text. */
  readonly by: string;
}

const MOST = 8;

const named = (name: string): Candidate => ({ key: name, name, aside: "", by: `@${name}` });
const linked = (to: string, name: string, aside: string): Candidate => ({
  ...{ key: to, name, aside },
  by: `[${name.replaceAll(/[[\]\n]/g, " ")}](${to})`,
});

/** The rows that were found, as links. */
const rowsOf = ({ activities, projects, risks, matters, periods }: Found): Candidate[] => [
  ...projects.map(({ id, code, name }) => linked(`/projects/${id}`, `${code} ${name}`, "project")),
  ...activities.map(({ project, id, code, name, kind }) =>
    linked(
      `/projects/${project}/plan?at=${encodeURIComponent(id)}`,
      name,
      `${code}, ${kind === "milestone" ? kind : "activity"}`,
    ),
  ),
  ...risks.map(({ project, code, name }) => linked(`/projects/${project}/registers?kind=risk`, name, `${code}, risk`)),
  ...matters.map(({ id, kind, code, name }) =>
    linked(
      `/registers?all=1&matter=${encodeURIComponent(id)}`,
      name,
      [code, MATTER_KIND_WORDS[kind][0]].filter((part) => part !== "").join(", "),
    ),
  ),
  ...periods.map(({ project, code, number }) =>
    linked(`/projects/${project}/report/${number}`, `Report of period ${number}, ${code}`, "report"),
  ),
];

const findQuery = (text: string) => ({
  queryKey: ["find", text],
  queryFn: ({ signal }: { signal: AbortSignal }): Promise<Found> => call("POST /api/find", { body: { text }, signal }),
  enabled: text !== "",
  staleTime: 10_000,
  placeholderData: keepPreviousData,
});

/** Who or what may be meant by a term that is being typed: people by their names, anything that is found by its name. */
export function useCompletion(term: Term | null, people: readonly string[]): readonly Candidate[] {
  const asked = term?.sign === "#" ? term.typed.trim() : "";
  const { data } = useQuery(findQuery(asked));
  return useMemo(() => {
    if (term === null) return [];
    if (term.sign === "#") return asked === "" || data === undefined ? [] : rowsOf(data).slice(0, MOST);
    const typed = term.typed.toLocaleLowerCase();
    const begins = (name: string): boolean =>
      name.toLocaleLowerCase().startsWith(typed) ||
      name
        .toLocaleLowerCase()
        .split(/\s+/)
        .some((word) => word.startsWith(typed));
    return people.filter(begins).slice(0, MOST).map(named);
  }, [term, asked, data, people]);
}
