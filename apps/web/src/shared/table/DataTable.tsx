import {
  columnFilteringFeature,
  columnVisibilityFeature,
  createColumnHelper,
  createFilteredRowModel,
  createSortedRowModel,
  filterFn_includesString,
  globalFilteringFeature,
  rowSortingFeature,
  sortFn_alphanumeric,
  sortFn_basic,
  tableFeatures,
  useTable,
} from "@tanstack/react-table";
import { useEffect, useMemo, useRef, useState, type ReactNode } from "react";
import { toast } from "../messages/toast.ts";
import { moveCellFocus } from "./cellFocus.ts";
import type { Column } from "./column.ts";
import { TableTools } from "./TableTools.tsx";
import { useFit } from "./useFit.ts";
import { keepHidden, keptHidden } from "./keptColumns.ts";

interface Props<T> {
  /** Names the table for those who cannot see it, and for keeping its columns. */
  readonly name: string;
  readonly rows: readonly T[];
  readonly columns: readonly Column<T>[];
  readonly rowKey: (row: T) => string;
  /**
   * Rows of one group stand together under its name while no column sorts them; several names are a group within
   * groups.
   */
  readonly group?: ((row: T) => string | readonly string[]) | undefined;
  readonly totalName?: string;
  readonly empty: ReactNode;
  readonly tools?: ReactNode;
  readonly rowClass?: (row: T) => string;
  readonly sort?: { id: string; desc: boolean } | undefined;
  readonly filter?: string | undefined;
  /** Columns put away, where an address says so; how someone last left the table otherwise. */
  readonly hidden?: readonly string[] | undefined;
  /** Told how the table is sorted and filtered whenever that changes, so that an address can keep it. */
  readonly onLook?: (look: TableLook) => void;
}

/** How a table is looked at. */
export interface TableLook {
  readonly sort: { readonly id: string; readonly desc: boolean } | null;
  readonly filter: string;
  readonly hidden: readonly string[];
}

const features = tableFeatures({
  rowSortingFeature,
  columnVisibilityFeature,
  columnFilteringFeature,
  globalFilteringFeature,
  sortedRowModel: createSortedRowModel(),
  filteredRowModel: createFilteredRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, basic: sortFn_basic },
  filterFns: { includesString: filterFn_includesString },
});

type Held<T> = { readonly row: T };

function useLedger<T>({ name, rows, columns, sort, filter, hidden: wanted, onLook }: Props<T>) {
  const data = useMemo(() => rows.map((row): Held<T> => ({ row })), [rows]);
  const defs = useMemo(() => {
    const helper = createColumnHelper<typeof features, Held<T>>();
    return helper.columns(
      columns.map((column) =>
        helper.accessor(({ row }) => column.value(row) ?? undefined, {
          id: column.id,
          header: column.head,
          sortUndefined: "last",
          sortFn: column.numeric === true ? "basic" : "alphanumeric",
          sortDescFirst: false,
        }),
      ),
    );
  }, [columns]);
  const [hidden, setHidden] = useState<readonly string[]>(
    () => wanted ?? keptHidden(name) ?? columns.filter((column) => column.hidden === true).map(({ id }) => id),
  );
  const [initialState] = useState(() => ({
    sorting: sort === undefined ? [] : [sort],
    globalFilter: filter ?? "",
    columnVisibility: Object.fromEntries(hidden.map((id) => [id, false])),
  }));
  const table = useTable({
    features,
    data,
    columns: defs,
    initialState,
    globalFilterFn: "includesString",
    getColumnCanGlobalFilter: () => true,
  });
  const { sorting, globalFilter } = table.state;
  const told = useRef(onLook);
  told.current = onLook;
  const first = useRef(true);
  useEffect(() => {
    if (!first.current) told.current?.({ sort: sorting[0] ?? null, filter: String(globalFilter ?? ""), hidden });
    first.current = false;
  }, [sorting, globalFilter, hidden]);
  const choose = (id: string, shown: boolean): void => {
    const next = shown ? hidden.filter((other) => other !== id) : [...hidden, id];
    setHidden(next);
    keepHidden(name, next);
    table.setColumnVisibility(Object.fromEntries(next.map((each) => [each, false])));
  };
  return { table, hidden, choose };
}

/** A row, or the heading of a group with all rows in it. */
type Line<T> = { readonly row: T } | { readonly name: string; readonly depth: number; readonly rows: readonly T[] };

/** Rows under the names of their groups, groups in the order in which they first appear. */
function grouped<T>(rows: readonly T[], group: Props<T>["group"]): Line<T>[] {
  if (group === undefined) return rows.map((row) => ({ row }));
  interface Branch {
    readonly own: T[];
    readonly all: T[];
    readonly below: Map<string, Branch>;
  }
  const branch = (): Branch => ({ own: [], all: [], below: new Map() });
  const top = branch();
  for (const row of rows) {
    const path = group(row);
    let at = top;
    for (const name of typeof path === "string" ? [path] : path) {
      if (!at.below.has(name)) at.below.set(name, branch());
      at = at.below.get(name)!;
      at.all.push(row);
    }
    at.own.push(row);
  }
  const lines: Line<T>[] = [];
  const walk = (at: Branch, depth: number): void => {
    for (const row of at.own) lines.push({ row });
    for (const [name, below] of at.below) {
      lines.push({ name, depth, rows: below.all });
      walk(below, depth + 1);
    }
  };
  walk(top, 0);
  return lines;
}

/** The head of a column, which sorts by it; of one of tools only its name, for those who cannot see. */
function Head<T>({
  column,
  sorted,
  onSort,
}: {
  column: Column<T>;
  sorted: "none" | "ascending" | "descending";
  onSort: () => void;
}) {
  if (column.tool === true)
    return (
      <th scope="col">
        <span className="sr-only">{column.head}</span>
      </th>
    );
  const isNumeric = column.numeric === true;
  return (
    <th scope="col" aria-sort={sorted} className={isNumeric ? "num" : ""} title={column.hint}>
      <button type="button" className="relative cursor-pointer font-semibold" onClick={onSort}>
        {column.head}
        {sorted !== "none" && (
          <span aria-hidden="true" className={`absolute top-0 ${isNumeric ? "right-full pr-0.5" : "left-full pl-0.5"}`}>
            {sorted === "ascending" ? "↑" : "↓"}
          </span>
        )}
      </button>
    </th>
  );
}

/** A table with sorting, a filter, a choice of columns, totals, copying and export; arrows move from cell to cell. */
export function DataTable<T>(props: Props<T>) {
  const { name, columns, rowKey, group, totalName, empty, tools, rowClass } = props;
  const { table, hidden, choose } = useLedger(props);
  const body = useRef<HTMLTableElement>(null);
  const shown = columns.filter(({ id }) => !hidden.includes(id));
  const rows = table.getRowModel().rows.map((row) => row.original.row);
  const sorted = table.state.sorting[0];
  const lines = grouped(rows, sorted === undefined ? group : undefined);
  const firstSaying = shown.findIndex(({ tool }) => tool !== true);
  useFit(body, `${props.rows.length} ${shown.map(({ id }) => id).join(" ")}`);
  const hasTotals = totalName !== undefined && rows.length > 0;
  if (props.rows.length === 0) return <div className="py-8 muted">{empty}</div>;
  return (
    <div>
      <TableTools
        name={name}
        columns={columns}
        shown={shown}
        rows={rows}
        hidden={hidden}
        onChoose={choose}
        filter={String(table.state.globalFilter ?? "")}
        onFilter={(text) => table.setGlobalFilter(text)}
      >
        {tools}
      </TableTools>
      <table
        ref={body}
        className="ledger"
        aria-label={name}
        onKeyDown={(event) =>
          event.key === "?" && !isTypedInto(event.target as HTMLElement)
            ? tellMeaning(event.target as HTMLElement)
            : moveCellFocus(event)
        }
      >
        <thead>
          <tr>
            {shown.map((column) => (
              <Head
                key={column.id}
                column={column}
                sorted={sorted?.id === column.id ? (sorted.desc ? "descending" : "ascending") : "none"}
                onSort={() => table.getColumn(column.id)?.toggleSorting(undefined, false)}
              />
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map((line, i) =>
            "row" in line ? (
              <Row key={rowKey(line.row)} row={line.row} columns={shown} rowClass={rowClass} />
            ) : (
              <GroupHead key={`group ${i}`} {...line} columns={shown} />
            ),
          )}
          {rows.length === 0 && (
            <tr>
              <td colSpan={shown.length} className="py-4 muted">
                Nothing matches the filter.
              </td>
            </tr>
          )}
        </tbody>
        {hasTotals && (
          <tfoot>
            <tr className="total">
              {shown.map((column, i) => (
                <td key={column.id} className={column.numeric === true ? "num" : ""}>
                  {i === firstSaying ? totalName : column.total?.(rows)}
                </td>
              ))}
            </tr>
          </tfoot>
        )}
      </table>
    </div>
  );
}

const isTypedInto = (target: HTMLElement): boolean => target.matches("input, textarea, select");

/** Says what a cell means to those who ask by keyboard; by pointer its tip does. */
function tellMeaning(target: HTMLElement): void {
  const { title = "" } = target.closest<HTMLElement>("td, th") ?? {};
  if (title !== "") toast(title);
}

function GroupHead<T>({
  name,
  depth,
  rows,
  columns,
}: {
  name: string;
  depth: number;
  rows: readonly T[];
  columns: readonly Column<T>[];
}) {
  return (
    <tr className="group">
      {columns.map((column, i) => (
        <td
          key={column.id}
          className={column.numeric === true ? "num" : "whitespace-nowrap"}
          style={i === 0 && depth > 0 ? { paddingLeft: `${depth + 0.5}rem` } : undefined}
        >
          {i === 0 ? name : column.total?.(rows)}
        </td>
      ))}
    </tr>
  );
}

const LONG = 36;
/** A text that may be cut is whole in its tip. */
const tipOf = (value: unknown): string | undefined =>
  typeof value === "string" && value.length > LONG ? value : undefined;

function Row<T>({
  row,
  columns,
  rowClass,
}: {
  row: T;
  columns: readonly Column<T>[];
  rowClass: ((row: T) => string) | undefined;
}) {
  return (
    <tr className={rowClass?.(row)}>
      {columns.map((column) => (
        <td
          key={column.id}
          tabIndex={-1}
          title={column.explains?.(row) ?? (column.wraps === true ? undefined : tipOf(column.value(row)))}
          className={column.numeric === true ? "num" : column.wraps === true ? "" : "whitespace-nowrap"}
        >
          {column.show === undefined ? (column.value(row) ?? "–") : column.show(row)}
        </td>
      ))}
    </tr>
  );
}
