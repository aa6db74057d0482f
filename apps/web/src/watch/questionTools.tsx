import type { WatchQuestion } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Table2 } from "lucide-react";
import { FileChoice } from "../shared/files/FileChoice.tsx";
import { ColumnChoice } from "../shared/table/ColumnChoice.tsx";
import { exportAnswer } from "./exportAnswer.ts";
import { watchChoicesQuery } from "./queries.ts";
import { fieldsOf } from "./question/questionWords.ts";

export interface LayoutProps {
  readonly question: WatchQuestion;
  readonly onQuestion: (question: WatchQuestion) => void;
}

/** Which columns are shown, by what the rows are grouped, and whether they are counted. */
export function Layout({ question, onQuestion }: LayoutProps) {
  const { data: choices } = useQuery(watchChoicesQuery);
  const fields = fieldsOf(question.about, choices);
  const columns = Object.entries(fields).map(([id, { head }]) => ({ id, head }));
  const groups = columns.filter(({ id }) =>
    ["choice", "person", "role", "yesNo", "text", "date"].includes(fields[id]!.type),
  );
  return (
    <>
      <ColumnChoice
        columns={columns}
        hidden={columns.map(({ id }) => id).filter((id) => !question.columns.includes(id))}
        onChoose={(id, shown) =>
          onQuestion({
            ...question,
            columns: shown
              ? [...question.columns, id]
              : question.columns.length === 1
                ? question.columns
                : question.columns.filter((each) => each !== id),
          })
        }
      />
      <label className="inline-flex items-center gap-1 text-sm">
        by
        <select
          className="select select-sm w-auto"
          aria-label="Group by"
          value={question.group ?? ""}
          onChange={(event) =>
            onQuestion({ ...question, group: event.target.value === "" ? null : event.target.value })
          }
        >
          <option value="">nothing</option>
          {groups.map(({ id, head }) => (
            <option key={id} value={id}>
              {head.toLowerCase()}
            </option>
          ))}
        </select>
      </label>
      <button
        type="button"
        className={`btn btn-ghost btn-sm ${question.pivot === null ? "" : "btn-active"}`}
        aria-pressed={question.pivot !== null}
        onClick={() =>
          onQuestion({
            ...question,
            pivot:
              question.pivot === null
                ? {
                    rows: question.group ?? "project",
                    columns: question.about === "activities" ? "state" : null,
                    sum: null,
                  }
                : null,
          })
        }
      >
        <Table2 size={14} aria-hidden="true" /> Count
      </button>
    </>
  );
}

/** Saves the rows as a file. */
export const Export = ({ question, name }: { question: WatchQuestion; name: string }) => (
  <FileChoice forms={["xlsx", "csv", "ics"]} onSave={(form) => exportAnswer(question, form, name)} />
);
