import {
  OWN_PREFIX,
  type WatchAct,
  type WatchChoices,
  type WatchField,
  type WatchQuestion,
  type WatchRow,
} from "@chronometra/contract";
import { PencilLine } from "lucide-react";
import { useRef, useState, type ReactNode } from "react";
import { readNumber } from "../../shared/words/amounts.ts";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { NOT_A_DATE, readDate } from "../../shared/words/words.ts";
import { choicesOf } from "../question/questionWords.ts";
import { useAct } from "./useAct.tsx";
import { todayHere } from "../../shared/words/today.ts";

const PLAIN = new Set(["name", "owner", "duration", "deadline"]);

/** Whether a cell can be changed where it stands. */
export const isEditable = ({ about }: WatchQuestion, column: string, row: WatchRow): boolean =>
  about === "activities" && row.mayEdit && (PLAIN.has(column) || column.startsWith(OWN_PREFIX));

/** What typing a text into a cell comes to; a text where it cannot be. */
function actOf(
  column: string,
  field: WatchField,
  text: string,
  choices: WatchChoices | undefined,
): WatchAct["act"] | string {
  const plain = text.trim();
  if (column === "name") return plain === "" ? "An activity needs a name." : { do: "setName", name: plain };
  if (column === "owner") {
    if (plain === "") return { do: "setOwner", to: null };
    const found = choicesOf(column, field, choices).find(
      ({ id, name }) => id !== "me" && id !== "team" && name.toLowerCase() === plain.toLowerCase(),
    );
    return found === undefined ? `There is nobody called "${plain}".` : { do: "setOwner", to: found.id };
  }
  if (column === "duration") {
    const days = readNumber(plain.replace(/\s*d$/i, ""));
    return days === null || days < 0.1 ? 'Write days, as "3" or "2.5d".' : { do: "setDuration", days };
  }
  const year = todayHere().slice(0, 4);
  const date = (): string | null => (plain === "" ? null : readDate(plain, year));
  if (column === "deadline") return plain !== "" && date() === null ? NOT_A_DATE : { do: "setDeadline", date: date() };
  const own = column.slice(OWN_PREFIX.length);
  if (plain === "") return { do: "setOwnValue", field: own, value: null };
  switch (field.type) {
    case "number": {
      const value = readNumber(plain);
      return value === null ? "Write a number." : { do: "setOwnValue", field: own, value };
    }
    case "date":
      return date() === null ? NOT_A_DATE : { do: "setOwnValue", field: own, value: date() };
    case "yesNo":
      return /^(yes|no)$/i.test(plain)
        ? { do: "setOwnValue", field: own, value: plain.toLowerCase() === "yes" }
        : "Write yes or no.";
    default:
      return { do: "setOwnValue", field: own, value: plain };
  }
}

interface Props {
  readonly column: string;
  readonly field: WatchField;
  readonly row: WatchRow;
  readonly choices: WatchChoices | undefined;
  readonly children: ReactNode;
}

function textOf(column: string, row: WatchRow): string {
  const value = row.values[column] ?? null;
  if (value === null) return "";
  return column === "duration" ? `${Math.round(Number(value) * 100) / 100}d` : String(value);
}

/** A cell with a pen beside it: what is typed is stored at once, and can be taken back. */
export function EditCell({ column, field, row, choices, children }: Props) {
  const [open, setOpen] = useState(false);
  const act = useAct();
  // What is on its way, or was refused, stays in sight when the field is left.
  const stays = useRef(false);
  if (!open) {
    return (
      <span className="group/cell inline-flex max-w-full items-center gap-1">
        <span className="truncate">{children}</span>
        <button
          type="button"
          className="inline-flex size-6 shrink-0 items-center justify-center opacity-0 group-hover/cell:opacity-70 focus:opacity-100 cursor-pointer"
          aria-label={`Change ${field.head} of ${String(row.values["name"] ?? row.key)}`}
          onClick={() => {
            stays.current = false;
            setOpen(true);
          }}
        >
          <PencilLine size={12} aria-hidden="true" />
        </button>
      </span>
    );
  }
  const offers =
    column === "owner"
      ? choicesOf(column, field, choices)
          .filter(({ id }) => id !== "me" && id !== "team")
          .map(({ name }) => name)
      : Object.values(field.choices ?? {});
  return (
    <span
      onKeyDown={(event) => {
        if (event.key === "Escape") setOpen(false);
      }}
      onBlur={() =>
        setTimeout(() => {
          if (!stays.current) setOpen(false);
        })
      }
      ref={(element) => element?.querySelector("input")?.focus()}
    >
      <CommitField
        label={`${field.head} of ${String(row.values["name"] ?? row.key)}`}
        width={column === "name" ? "w-56" : "w-32"}
        value={textOf(column, row)}
        offers={offers}
        onCommit={async (text) => {
          stays.current = true;
          const wanted = actOf(column, field, text, choices);
          if (typeof wanted === "string") return wanted;
          try {
            const { left } = await act.mutateAsync({
              rows: [{ project: row.project, activity: row.activity }],
              act: wanted,
            });
            if (left.length > 0) return left[0]!.why;
            stays.current = false;
            setOpen(false);
            return null;
          } catch (error) {
            return error instanceof Error ? error.message : String(error);
          }
        }}
      />
    </span>
  );
}
