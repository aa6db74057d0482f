import type { ProjectLine } from "@chronometra/contract";
import { ownValueFault, type OwnField, type OwnValue } from "@chronometra/core";
import { readNumber } from "../shared/words/amounts.ts";
import type { Column } from "../shared/table/column.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { dateWords, readDate } from "../shared/words/words.ts";
import { usePortfolioWrite } from "./usePortfolioWrite.ts";
import { todayHere } from "../shared/words/today.ts";

/** A value of an own field as people read it. */
export function ownValueWords(field: OwnField, value: OwnValue | undefined): string {
  if (value === undefined) return "";
  if (typeof value === "boolean") return value ? "yes" : "no";
  return field.type === "date" ? dateWords(String(value)) : String(value);
}

/** What is typed as a value of a field; `null` takes it away, `undefined` is none. */
export function readOwnValue(field: OwnField, text: string, year: string): OwnValue | null | undefined {
  const plain = text.trim();
  if (plain === "") return null;
  switch (field.type) {
    case "number":
      return readNumber(plain) ?? undefined;
    case "date":
      return readDate(plain, year) ?? undefined;
    case "yesNo":
      return /^yes$/i.test(plain) ? true : /^no$/i.test(plain) ? false : undefined;
    case "choice":
      return (field.choices ?? []).find((choice) => choice.toLowerCase() === plain.toLowerCase());
    default:
      return plain;
  }
}

const ASKED: Record<OwnField["type"], string> = {
  text: "a text",
  number: "a number",
  date: "a date, as 24 Nov 2026",
  choice: "one of the list",
  yesNo: "yes or no",
};

function OwnFieldCell({ field, line }: { field: OwnField; line: ProjectLine }) {
  const write = usePortfolioWrite("PUT /api/projects/:project/standing");
  const words = ownValueWords(field, line.values[field.id]);
  if (!line.mayEdit) return words === "" ? "–" : words;
  return (
    <CommitField
      label={`${field.name} of ${line.name}`}
      width="w-28"
      value={words}
      offers={field.type === "choice" ? (field.choices ?? []) : field.type === "yesNo" ? ["yes", "no"] : []}
      onCommit={async (text) => {
        const value = readOwnValue(field, text, todayHere().slice(0, 4));
        if (value === undefined || (value !== null && ownValueFault(field, value) !== null))
          return `Write ${ASKED[field.type]}.`;
        try {
          await write.mutateAsync({ params: { project: line.id }, body: { values: { [field.id]: value } } });
          return null;
        } catch (error) {
          return error instanceof Error ? error.message : String(error);
        }
      }}
    />
  );
}

/** A column of an own field, its values typed where they stand. */
export const ownFieldColumn = (field: OwnField): Column<ProjectLine> => ({
  id: `own-${field.id}`,
  head: field.name,
  numeric: field.type === "number",
  value: ({ values }) => {
    const value = values[field.id];
    return value === undefined ? null : typeof value === "boolean" ? (value ? "yes" : "no") : value;
  },
  show: (line) => <OwnFieldCell field={field} line={line} />,
});
