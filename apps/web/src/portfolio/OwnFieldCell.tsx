import type { Portfolio, ProjectField, ProjectLine } from "@chronometra/contract";
import { CallNames } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { commonOf } from "../project/together.ts";
import { namablesQuery } from "../project/queries.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import type { Column } from "../shared/table/column.ts";
import { AMOUNT_FAULT } from "../shared/words/amounts.ts";
import { todayHere } from "../shared/words/today.ts";
import { money } from "../shared/words/words.ts";
import { minorOf, ownValueOrder, ownValueText, ownValueWords, readOwnValue } from "../project/ownValues.ts";
import { usePortfolioWrite } from "./usePortfolioWrite.ts";

const ASKED: Record<ProjectField["type"], string> = {
  text: "Write a text.",
  number: "Write a number.",
  date: "Write a date, as 24 Nov 2026.",
  choice: "Write one of the list.",
  yesNo: "Write yes or no.",
  money: AMOUNT_FAULT,
  person: "Write the name of somebody who can sign in or is in the register.",
};

const NOBODY: { id: string; name: string }[] = [];

interface Props {
  readonly field: ProjectField;
  readonly line: ProjectLine;
  readonly named: Portfolio["named"];
}

/** What is offered while a value is typed, and the people among it by their names. */
function useOffers(field: ProjectField): {
  readonly people: CallNames;
  readonly offers: readonly string[] | undefined;
} {
  const known = useQuery({ ...namablesQuery, enabled: field.type === "person" }).data ?? NOBODY;
  const people = useMemo(() => new CallNames(known), [known]);
  const offers = useMemo(() => {
    if (field.type === "choice") return field.choices ?? [];
    if (field.type === "yesNo") return ["yes", "no"];
    return field.type === "person" ? known.map(({ id }) => people.of(id)) : undefined;
  }, [field, known, people]);
  return { people, offers };
}

function TypedCell({ field, line, named }: Props) {
  const write = usePortfolioWrite("PUT /api/projects/:project/standing");
  const { people, offers } = useOffers(field);
  return (
    <CommitField
      label={`${field.name} of ${line.name}`}
      width="w-28"
      value={ownValueText(field, line, named)}
      numeric={field.type === "money" || field.type === "number"}
      {...(offers === undefined ? {} : { offers })}
      onCommit={async (text) => {
        const { minorDigits } = line.summary;
        const value = readOwnValue(field, text, { year: todayHere().slice(0, 4), minorDigits, people });
        if (value === undefined) return ASKED[field.type];
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

/** What amounts of a field come to, over several currencies where rates are known. */
function sumOf(field: ProjectField, lines: readonly ProjectLine[], portfolio: Portfolio): string {
  const said = lines.filter(({ values }) => values[field.id] !== undefined);
  if (said.length === 0) return "–";
  const common = commonOf(portfolio.projects, portfolio);
  if (common.money === null) return "–";
  const sum = said.reduce(
    (total, { values, summary }) => total + common.convert(minorOf(values[field.id]!, summary.minorDigits), summary),
    0,
  );
  return money(sum, common.money.minorDigits);
}

/** A column of an own field, its values typed where they stand. */
export const ownFieldColumn = (field: ProjectField, portfolio: Portfolio): Column<ProjectLine> => ({
  id: `own-${field.id}`,
  head: field.name,
  numeric: field.type === "number" || field.type === "money",
  value: (line) => ownValueOrder(field, line, portfolio.named),
  ...(field.type === "money" ? { money: ({ summary }: ProjectLine) => summary } : {}),
  ...(field.type === "choice"
    ? { says: (line: ProjectLine) => ownValueWords(field, line, portfolio.named) || null }
    : {}),
  ...(field.type === "money" ? { total: (lines: readonly ProjectLine[]) => sumOf(field, lines, portfolio) } : {}),
  show: (line) =>
    line.mayEdit ? (
      <TypedCell field={field} line={line} named={portfolio.named} />
    ) : (
      ownValueWords(field, line, portfolio.named) || "–"
    ),
});
