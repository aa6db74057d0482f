import type { WatchAnswer, WatchField, WatchRow, WatchQuestion, WatchChoices } from "@chronometra/contract";
import { type ReactNode } from "react";
import { Link } from "react-router";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import { countWords, driftTone } from "../../shared/words/words.ts";
import { EditCell, isEditable } from "./EditCell.tsx";
import type { fieldsOf } from "../question/questionWords.ts";
import { COUNTED, valueWords } from "../question/questionWords.ts";

/** What tells a row from all others of an answer. */
export const rowId = ({ project, key }: Pick<WatchRow, "project" | "key">): string => `${project} ${key}`;

const NUMERIC = new Set(["number", "days", "hours", "amount", "percent"]);
/** Whether a field's values are numbers, and stand to the right. */
export const isNumeric = (field: WatchField | undefined): boolean => field !== undefined && NUMERIC.has(field.type);

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

/** Sums below the columns from the second on. */
export function Sums({
  ground: { question, fields, money, several },
  sums,
}: {
  ground: Ground;
  sums: WatchAnswer["sums"];
}) {
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
export function GroupLine({ ground, name, whole, own, chosen, onToggle, onOpen }: GroupLineProps) {
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
export function AnswerLine({
  ground: { question, fields, several, acts, choices },
  row,
  chosen,
  onToggle,
}: AnswerLineProps) {
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

/** An answer, and what it was asked with. */
export interface Props {
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

/** What the lines of a table have in common. */
export interface Ground {
  readonly question: WatchQuestion;
  readonly fields: ReturnType<typeof fieldsOf>;
  readonly money: WatchAnswer["money"];
  /** Whether amounts are of several currencies, and so say theirs. */
  readonly several: boolean;
  /** Whether rows can be selected. */
  readonly acts: boolean;
  readonly choices: Props["choices"];
}
