import { LIST_COLUMNS, MATTER_KINDS, type ListColumn, type MatterSettings } from "@chronometra/contract";
import type { OwnField } from "@chronometra/core";
import { plainHeading } from "../exchange/match/matchSheets.ts";
import type { OneTable } from "../exchange/match/oneTable.ts";

/** Headings as people write them, in lower case without spaces and signs. */
const WORDS: Readonly<Record<ListColumn, readonly string[]>> = {
  kind: ["kind", "type", "register", "category"],
  title: ["what", "title", "name", "subject", "summary", "item", ...MATTER_KINDS],
  place: ["of", "project", "projectcode", "group", "place", "where"],
  text: ["description", "text", "details", "detail", "note", "notes", "cause", "background"],
  severity: ["severity", "seriousness", "impact"],
  chance: ["probability", "likelihood", "chance"],
  owner: ["owner", "responsible", "who", "assignedto", "actionby", "bywhom"],
  due: ["due", "duedate", "deadline", "bywhen", "until", "when"],
  state: ["state", "status"],
  strategy: ["kindofresponse", "strategy"],
  response: ["response", "mitigation", "whatisdoneaboutit", "howitwent", "measure", "measures", "answer"],
};
const NAMED = Object.keys(LIST_COLUMNS) as ListColumn[];

/** The name of a column that holds an own field. */
const ownColumn = ({ id }: OwnField): string => `own ${id}`;

/** The own fields of all registers, each once, by the column that holds them. */
export const ownColumns = ({ fields }: MatterSettings): ReadonlyMap<string, OwnField> =>
  new Map(MATTER_KINDS.flatMap((kind) => (fields[kind] ?? []).map((field) => [ownColumn(field), field])));

/**
 * What each heading is taken for: as whoever brings it says, else by its words or the name of an own field; no column
 * twice.
 */
export function matchHeadings(
  { headings }: OneTable,
  own: ReadonlyMap<string, OwnField>,
  said: Readonly<Record<string, string>>,
): (string | null)[] {
  const taken = new Set<string>();
  // What has exactly that name here comes before what people else call so.
  const guessed = (plain: string): string | undefined =>
    NAMED.find((column) => plainHeading(LIST_COLUMNS[column]) === plain) ??
    [...own].find(([, { name }]) => plainHeading(name) === plain)?.[0] ??
    NAMED.find((column) => WORDS[column].includes(plain));
  return headings.map((heading) => {
    const plain = plainHeading(heading);
    const column = Object.hasOwn(said, heading) ? said[heading] : plain === "" ? undefined : guessed(plain);
    const isOne = column !== undefined && (own.has(column) || Object.hasOwn(LIST_COLUMNS, column));
    if (!isOne || taken.has(column)) return null;
    taken.add(column);
    return column;
  });
}
