import type { WatchAnswer, WatchField, WatchRow } from "@chronometra/contract";
import { Fragment, useRef } from "react";
import { moveCellFocus } from "../../shared/table/cellFocus.ts";
import { useFit } from "../../shared/table/useFit.ts";
import { countWords } from "../../shared/words/words.ts";
import { COUNTED, fieldsOf } from "../question/questionWords.ts";
import { rowId, isNumeric, Sums, GroupLine, AnswerLine, type Props, type Ground } from "./AnswerLines.tsx";

function Heads({
  question,
  fields,
  onQuestion,
}: Pick<Props, "question" | "onQuestion"> & { fields: Readonly<Record<string, WatchField>> }) {
  const sort = question.sort[0];
  return question.columns.map((name) => {
    const field = fields[name];
    const direction = sort?.field === name ? (sort.desc ? "descending" : "ascending") : "none";
    const cannot = field?.several === true;
    return (
      <th key={name} scope="col" aria-sort={direction} className={isNumeric(field) ? "num" : ""} title={field?.hint}>
        {cannot ? (
          (field?.head ?? name)
        ) : (
          <button
            type="button"
            className="relative cursor-pointer font-semibold"
            onClick={() => onQuestion({ ...question, sort: [{ field: name, desc: direction === "ascending" }] })}
          >
            {field?.head ?? name}
            {direction !== "none" && (
              <span
                aria-hidden="true"
                className={`absolute top-0 ${isNumeric(field) ? "right-full pr-0.5" : "left-full pl-0.5"}`}
              >
                {direction === "ascending" ? "↑" : "↓"}
              </span>
            )}
          </button>
        )}
      </th>
    );
  });
}

/** The rows of each group that is told, in the order of the groups. */
function grouped(
  rows: readonly WatchRow[],
  { groups }: WatchAnswer,
  by: string | null,
): { name: string | null; rows: readonly WatchRow[] }[] {
  if (by === null) return [{ name: null, rows }];
  const of = new Map<string | null, WatchRow[]>();
  for (const row of rows) {
    const known = of.get(row.group);
    if (known === undefined) of.set(row.group, [row]);
    else known.push(row);
  }
  return groups.map(({ name }) => ({ name, rows: of.get(name) ?? [] }));
}

/** The answer as a table: sorted and grouped by the server, rows chosen and changed in place. */
export function AnswerTable({
  name,
  question,
  answer,
  rows,
  choices,
  chosen,
  onChosen,
  onQuestion,
  onOpen,
  onChooseAll,
}: Props) {
  const fields = fieldsOf(question.about, choices);
  const table = useRef<HTMLTableElement>(null);
  useFit(table, `${rows.length} ${question.columns.join(" ")}`);
  const several = new Set(rows.map(({ currency }) => currency)).size > 1;
  const acts = question.about === "activities" && rows.some(({ mayEdit }) => mayEdit);
  const ground: Ground = { question, fields, money: answer.money, several, acts, choices };
  const toggle = (ids: readonly string[], on: boolean): void => {
    const next = new Set(chosen);
    for (const id of ids)
      if (on) next.add(id);
      else next.delete(id);
    onChosen(next);
  };
  const groupOf = new Map(answer.groups.map((group) => [group.name, group]));
  const [one, many] = COUNTED[question.about];
  const ids = [...new Set(rows.map(rowId))];
  const all = ids.length >= answer.count && ids.every((id) => chosen.has(id));
  return (
    <table ref={table} className="ledger" aria-label={name} onKeyDown={moveCellFocus}>
      <thead>
        <tr>
          {acts && (
            <th scope="col" className="w-6">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                aria-label={`Select all ${countWords(answer.count, one, many)}`}
                checked={all}
                onChange={(event) => onChooseAll(event.target.checked)}
              />
            </th>
          )}
          <Heads question={question} fields={fields} onQuestion={onQuestion} />
        </tr>
      </thead>
      <tbody>
        {grouped(rows, answer, question.group).map((group, g) => (
          <Fragment key={`${g} ${group.name}`}>
            {question.group !== null && (
              <GroupLine
                ground={ground}
                name={group.name}
                whole={groupOf.get(group.name)}
                own={[...new Set(group.rows.map(rowId))]}
                chosen={chosen}
                onToggle={toggle}
                onOpen={onOpen}
              />
            )}
            {group.rows.map((row) => (
              <AnswerLine
                key={`${g} ${rowId(row)}`}
                ground={ground}
                row={row}
                chosen={chosen.has(rowId(row))}
                onToggle={toggle}
              />
            ))}
          </Fragment>
        ))}
      </tbody>
      <tfoot>
        <tr className="total">
          {acts && <td />}
          <td className="whitespace-nowrap">{countWords(answer.count, one, many)}</td>
          <Sums ground={ground} sums={answer.sums} />
        </tr>
      </tfoot>
    </table>
  );
}
