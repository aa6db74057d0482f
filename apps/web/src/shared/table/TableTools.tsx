import { Copy } from "lucide-react";
import type { ReactNode } from "react";
import { toast } from "../messages/toast.ts";
import { ColumnChoice } from "./ColumnChoice.tsx";
import type { Column } from "./column.ts";
import { FileChoice } from "../files/FileChoice.tsx";
import { tableText } from "../files/tableText.ts";
import { fileTable } from "./fileTable.ts";
import { saveTable, TABLE_FORMS } from "../files/saveTable.ts";
import { countWords } from "../words/words.ts";

interface Props<T> {
  readonly name: string;
  readonly columns: readonly Column<T>[];
  readonly shown: readonly Column<T>[];
  readonly rows: readonly T[];
  readonly hidden: readonly string[];
  readonly onChoose: (id: string, shown: boolean) => void;
  readonly filter: string;
  readonly onFilter: (text: string) => void;
  readonly children: ReactNode;
}

/** Above a table: filter, columns, copy, export, and what the page adds. */
export function TableTools<T>({ name, columns, shown, rows, hidden, onChoose, filter, onFilter, children }: Props<T>) {
  const copy = async (): Promise<void> => {
    try {
      await navigator.clipboard.writeText(tableText(fileTable(shown, rows), "\t"));
      toast(`${countWords(rows.length, "row", "rows")} copied; paste into a spreadsheet.`);
    } catch {
      toast.error("The browser did not allow copying; use Export instead.");
    }
  };
  return (
    <div className="flex flex-wrap items-center gap-2 pb-1">
      <input
        type="search"
        className="input input-sm w-44"
        placeholder="Filter"
        aria-label={`Filter ${name}`}
        value={filter}
        onChange={(event) => onFilter(event.target.value)}
      />
      <ColumnChoice columns={columns.filter(({ tool }) => tool !== true)} hidden={hidden} onChoose={onChoose} />
      <button type="button" className="btn btn-ghost btn-sm" onClick={() => void copy()}>
        <Copy size={14} aria-hidden="true" /> Copy
      </button>
      <FileChoice forms={TABLE_FORMS} onSave={(form) => saveTable(name, form, fileTable(shown, rows))} />
      <div className="ml-auto flex flex-wrap items-center gap-2">{children}</div>
    </div>
  );
}
