import { columnFilteringFeature, columnVisibilityFeature, createColumnHelper, createFilteredRowModel, createSortedRowModel, filterFn_includesString, globalFilteringFeature, rowSortingFeature, sortFn_alphanumeric, sortFn_basic, tableFeatures, useTable } from "@tanstack/react-table";
import { useMemo, useRef, useState, type ReactNode } from "react";
import { moveCellFocus } from "./cellFocus.ts";
import type { Column } from "./column.ts";
import { TableTools } from "./TableTools.tsx";
import { keepHidden, keptHidden } from "./keptColumns.ts";

interface Props<T> {
  /** Names the table for those who cannot see it, and for keeping its columns. */
  readonly name: string;
  readonly rows: readonly T[];
  readonly columns: readonly Column<T>[];
  readonly rowKey: (row: T) => string;
  /** Rows of one group stand together under its name while no column sorts them. */
  readonly group?: (row: T) => string;
  readonly totalName?: string;
  readonly empty: ReactNode;
  readonly tools?: ReactNode;
  readonly rowClass?: (row: T) => string;
  readonly sort?: { id: string; desc: boolean };
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

function useLedger<T>({ name, rows, columns, sort }: Props<T>) {
  const data = useMemo(() => rows.map((row): Held<T> => ({ row })), [rows]);
  const defs = useMemo(() => {
    const helper = createColumnHelper<typeof features, Held<T>>();
    return helper.columns(
      columns.map((column) =>
        helper.accessor(({ row }) => column.value(row) ?? undefined, { id: column.id, header: column.head, sortUndefined: "last", sortFn: column.numeric === true ? "basic" : "alphanumeric", sortDescFirst: false }),
      ),
    );
  }, [columns]);
  const [hidden, setHidden] = useState(() => keptHidden(name) ?? columns.filter((column) => column.hidden === true).map(({ id }) => id));
  const [initialState] = useState(() => ({ sorting: sort === undefined ? [] : [sort], globalFilter: "", columnVisibility: Object.fromEntries(hidden.map((id) => [id, false])) }));
  const table = useTable({ features, data, columns: defs, initialState, globalFilterFn: "includesString", getColumnCanGlobalFilter: () => true });
  const choose = (id: string, shown: boolean): void => {
    const next = shown ? hidden.filter((other) => other !== id) : [...hidden, id];
    setHidden(next);
    keepHidden(name, next);
    table.setColumnVisibility(Object.fromEntries(next.map((each) => [each, false])));
  };
  return { table, hidden, choose };
}

/** Rows under the names of their groups, in the order in which these first appear. */
function grouped<T>(rows: readonly T[], group: ((row: T) => string) | undefined): { name: string | null; rows: T[] }[] {
  if (group === undefined) return [{ name: null, rows: [...rows] }];
  const byName = new Map<string, T[]>();
  for (const row of rows) byName.set(group(row), [...(byName.get(group(row)) ?? []), row]);
  return [...byName].map(([name, own]) => ({ name, rows: own }));
}

/** A table with sorting, a filter, a choice of columns, totals, copying and export; arrows move from cell to cell. */
export function DataTable<T>(props: Props<T>) {
  const { name, columns, rowKey, group, totalName, empty, tools, rowClass } = props;
  const { table, hidden, choose } = useLedger(props);
  const body = useRef<HTMLTableElement>(null);
  const shown = columns.filter(({ id }) => !hidden.includes(id));
  const rows = table.getRowModel().rows.map((row) => row.original.row);
  const sorted = table.state.sorting[0];
  const groups = grouped(rows, sorted === undefined ? group : undefined);
  const hasTotals = totalName !== undefined && rows.length > 0;
  if (props.rows.length === 0) return <div className="py-8 muted">{empty}</div>;
  return (
    <div>
      <TableTools name={name} columns={columns} shown={shown} rows={rows} hidden={hidden} onChoose={choose} filter={String(table.state.globalFilter ?? "")} onFilter={(text) => table.setGlobalFilter(text)}>
        {tools}
      </TableTools>
      <table ref={body} className="ledger" aria-label={name} onKeyDown={moveCellFocus}>
        <thead>
          <tr>
            {shown.map((column) => {
              const direction = sorted?.id === column.id ? (sorted.desc ? "descending" : "ascending") : "none";
              return (
                <th key={column.id} scope="col" aria-sort={direction} className={column.numeric === true ? "num" : ""} title={column.hint}>
                  <button type="button" className="relative cursor-pointer font-semibold" onClick={() => table.getColumn(column.id)?.toggleSorting(undefined, false)}>
                    {column.head}
                    {direction !== "none" && <span aria-hidden="true" className={`absolute top-0 ${column.numeric === true ? "right-full pr-0.5" : "left-full pl-0.5"}`}>{direction === "ascending" ? "↑" : "↓"}</span>}
                  </button>
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody>
          {groups.map(({ name: groupName, rows: own }) => (
            <GroupRows key={groupName ?? ""} name={groupName} rows={own} columns={shown} rowKey={rowKey} rowClass={rowClass} />
          ))}
          {rows.length === 0 && (
            <tr>
              <td colSpan={shown.length} className="py-4 muted">Nothing matches the filter.</td>
            </tr>
          )}
        </tbody>
        {hasTotals && (
          <tfoot>
            <tr className="total">
              {shown.map((column, i) => (
                <td key={column.id} className={column.numeric === true ? "num" : ""}>{i === 0 ? totalName : column.total?.(rows)}</td>
              ))}
            </tr>
          </tfoot>
        )}
      </table>
    </div>
  );
}

interface GroupProps<T> {
  readonly name: string | null;
  readonly rows: readonly T[];
  readonly columns: readonly Column<T>[];
  readonly rowKey: (row: T) => string;
  readonly rowClass: ((row: T) => string) | undefined;
}

function GroupRows<T>({ name, rows, columns, rowKey, rowClass }: GroupProps<T>) {
  return (
    <>
      {name !== null && (
        <tr className="group">
          {columns.map((column, i) => (
            <td key={column.id} className={column.numeric === true ? "num" : "whitespace-nowrap"}>{i === 0 ? name : column.total?.(rows)}</td>
          ))}
        </tr>
      )}
      {rows.map((row) => (
        <tr key={rowKey(row)} className={rowClass?.(row)}>
          {columns.map((column) => (
            <td key={column.id} tabIndex={-1} className={column.numeric === true ? "num" : column.wraps === true ? "" : "whitespace-nowrap"}>{column.show === undefined ? (column.value(row) ?? "–") : column.show(row)}</td>
          ))}
        </tr>
      ))}
    </>
  );
}
