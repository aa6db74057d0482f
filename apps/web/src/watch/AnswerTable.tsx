import type { WatchAnswer, WatchChoices, WatchField, WatchQuestion, WatchRow } from "@chronometra/contract";
import { Fragment, useRef, type ReactNode } from "react";
import { Link } from "react-router";
import { moveCellFocus } from "../shared/table/cellFocus.ts";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { useFit } from "../shared/table/useFit.ts";
import { countWords, driftTone } from "../shared/words/words.ts";
import { EditCell, isEditable } from "./EditCell.tsx";
import { COUNTED, fieldsOf, valueWords } from "./questionWords.ts";

export const rowId = ({ project, key }: Pick<WatchRow, "project" | "key">): string => `${project} ${key}`;

interface Props {
  readonly name: string;
  readonly question: WatchQuestion;
  readonly answer: WatchAnswer;
  readonly choices: WatchChoices | undefined;
  /** The rows there are on the page, of groups that were opened all of them. */
  readonly rows: readonly WatchRow[];
  readonly chosen: ReadonlySet<string>;
  readonly onChosen: (chosen: ReadonlySet<string>) => void;
  /** Fetches the rows of a group that are not there yet. */
  readonly onOpen: (group: string | null) => void;
  /** Chooses every row that holds, or none. */
  readonly onChooseAll: (all: boolean) => void;
  readonly onQuestion: (question: WatchQuestion) => void;
}

const NUMERIC = new Set(["number", "days", "hours", "amount", "percent"]);
const isNumeric = (field: WatchField | undefined): boolean => field !== undefined && NUMERIC.has(field.type);

const addressOf = ({ project, activity }: WatchRow): string =>
  `/projects/${project}/plan?at=${encodeURIComponent(activity)}`;

function Shown({ name, field, row }: { name: string; field: WatchField; row: WatchRow }): ReactNode {
  const value = row.values[name] ?? null;
  const words = valueWords(field.type, value, row.minorDigits, name);
  if (name === "name" && row.activity !== "")
    return (
      <Link className="link-quiet" to={addressOf(row)}>
        {words}
      </Link>
    );
  if (name === "risk")
    return (
      <Link className="link-quiet" to={`/projects/${row.project}/chances`}>
        {words}
      </Link>
    );
  if (name === "project")
    return (
      <Link className="link-quiet" to={`/projects/${row.project}`}>
        {words}
      </Link>
    );
  if (name === "drift") return <Toned tone={driftTone(typeof value === "number" ? value : null)}>{words}</Toned>;
  if (name === "margin" || name === "sv" || name === "cv" || name === "float")
    return <Toned tone={typeof value === "number" && value < 0 ? "adverse" : "plain"}>{words}</Toned>;
  return words;
}

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

/** What the lines of a table have in common. */
interface Ground {
  readonly question: WatchQuestion;
  readonly fields: ReturnType<typeof fieldsOf>;
  readonly money: WatchAnswer["money"];
  /** Whether amounts are of several currencies, and so say theirs. */
  readonly several: boolean;
  /** Whether rows can be selected. */
  readonly acts: boolean;
  readonly choices: Props["choices"];
}

/** Sums below the columns from the second on. */
function Sums({ ground: { question, fields, money, several }, sums }: { ground: Ground; sums: WatchAnswer["sums"] }) {
  const words = (column: string): string | null => {
    const field = fields[column];
    if (field?.summed !== true) return null;
    if (sums[column] == null) return "–";
    return `${valueWords(field.type, sums[column], money.minorDigits)}${several && field.type === "amount" ? ` ${money.currency}` : ""}`;
  };
  return question.columns.slice(1).map((column) => (
    <td key={column} className={isNumeric(fields[column]) ? "num" : ""}>
      {words(column)}
    </td>
  ));
}

interface GroupLineProps {
  readonly ground: Ground;
  readonly name: string | null;
  readonly whole: WatchAnswer["groups"][number] | undefined;
  /** Its rows that are shown. */
  readonly own: readonly string[];
  readonly chosen: ReadonlySet<string>;
  readonly onToggle: (ids: readonly string[], on: boolean) => void;
  readonly onOpen: Props["onOpen"];
}

/** The head of a group: how many there are, and what opens the rest of it. */
function GroupLine({ ground, name, whole, own, chosen, onToggle, onOpen }: GroupLineProps) {
  const { question, fields, acts } = ground;
  const [one, many] = COUNTED[question.about];
  const called = name ?? `no ${(fields[question.group ?? ""]?.head ?? "").toLowerCase()}`;
  const left = (whole?.count ?? 0) - own.length;
  return (
    <tr className="group">
      {acts && (
        <td>
          {own.length > 0 && (
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              aria-label={`Select all of ${called} that are shown`}
              checked={own.every((id) => chosen.has(id))}
              onChange={(event) => onToggle(own, event.target.checked)}
            />
          )}
        </td>
      )}
      <td className="whitespace-nowrap">
        {called}{" "}
        <span className="muted font-normal">
          {whole === undefined ? "" : countWords(whole.count, one, many)}
          {left > 0 && (
            <>
              {", "}
              <button
                type="button"
                className="underline cursor-pointer"
                aria-label={`Show all ${countWords(whole!.count, one, many)} of ${called}`}
                onClick={() => onOpen(name)}
              >
                {own.length === 0 ? "show" : `${left} more`}
              </button>
            </>
          )}
        </span>
      </td>
      <Sums ground={ground} sums={whole?.sums ?? {}} />
    </tr>
  );
}

interface AnswerLineProps {
  readonly ground: Ground;
  readonly row: WatchRow;
  readonly chosen: boolean;
  readonly onToggle: (ids: readonly string[], on: boolean) => void;
}

/** One row, its cells changed in place where they can be. */
function AnswerLine({ ground: { question, fields, several, acts, choices }, row, chosen, onToggle }: AnswerLineProps) {
  return (
    <tr className={chosen ? "bg-base-200" : ""}>
      {acts && (
        <td>
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            aria-label={`Select ${String(row.values["name"] ?? row.key)}`}
            checked={chosen}
            onChange={(event) => onToggle([rowId(row)], event.target.checked)}
          />
        </td>
      )}
      {question.columns.map((column) => {
        const field = fields[column] ?? { head: column, type: "text" as const };
        const shown = (
          <>
            <Shown name={column} field={field} row={row} />
            {several && field.type === "amount" && row.values[column] != null && ` ${row.currency}`}
          </>
        );
        return (
          <td
            key={column}
            tabIndex={-1}
            className={isNumeric(field) ? "num" : field.type === "text" ? "truncate" : "whitespace-nowrap"}
            title={field.type === "text" ? String(row.values[column] ?? "") : undefined}
          >
            {isEditable(question, column, row) ? (
              <EditCell column={column} field={field} row={row} choices={choices}>
                {shown}
              </EditCell>
            ) : (
              shown
            )}
          </td>
        );
      })}
    </tr>
  );
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
