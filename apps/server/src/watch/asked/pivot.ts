import type { WatchAbout, WatchAnswer } from "@chronometra/contract";
import type { CommonMoney } from "@chronometra/core";
import { fieldOf, inWords, type Loose, type Sql } from "./fieldSql.ts";
import { NOTHING, shownAs } from "./shownAs.ts";
import { inNameOrder, sumOf, type Asking } from "./sums.ts";

const SHOWN_AT_MOST = 60;

/** How a pivot's rows and columns are called: dates by their month, all else by what it says. */
const called = (about: WatchAbout, name: string, sql: string): string =>
  fieldOf(about, name).type === "date" ? `substring(${sql}, 1, 7)` : sql;

/** One way to part the rows: by both fields, by one of them, or not at all. */
type Parting = readonly ("down_" | "across_")[];

/** Measures by the names of the fields that the rows are parted by. */
type Measured = Map<string, { readonly names: (string | null)[]; value: number }>;

const NO_PIVOT: WatchAnswer["pivot"] = {
  rows: [],
  columns: [],
  cells: [],
  rowTotals: [],
  columnTotals: [],
  total: null,
  moreRows: 0,
  moreColumns: 0,
};

/**
 * The rows that hold counted or summed by two fields. Totals are of all rows, each counted once, also where a row
 * stands under several names, and also of what is not shown.
 */
export async function pivotOf(asking: Asking, alone: Sql | null, common: CommonMoney): Promise<WatchAnswer["pivot"]> {
  const { about, pivot } = asking.question;
  const sum = pivot!.sum !== null && fieldOf(about, pivot!.sum).summed === true ? pivot!.sum : null;
  const isAmount = sum !== null && fieldOf(about, sum).type === "amount";
  if (isAmount && common.money === null) return NO_PIVOT;
  const field = { down_: pivot!.rows, across_: pivot!.columns } as const;
  const measure = async (parting: Parting): Promise<Measured> => {
    const found: Measured = new Map();
    for (const row of await measuredRows(asking, alone, sum, parting)) {
      const names = parting.map((way) => inWords(about, field[way]!, row[way], asking.asker));
      const money = { currency: String(row["currency_"]), minorDigits: Math.round(Math.log10(Number(row["scale_"]))) };
      const value = isAmount ? common.convert(Number(row["measure_"]), money) : Number(row["measure_"]);
      const key = JSON.stringify(names);
      const known = found.get(key);
      if (known === undefined) found.set(key, { names, value });
      else known.value += value;
    }
    return found;
  };
  const both: Parting = field.across_ === null ? ["down_"] : ["down_", "across_"];
  const [cells, down, across, all] = await Promise.all([
    measure(both),
    measure(["down_"]),
    field.across_ === null ? null : measure(["across_"]),
    measure([]),
  ]);
  const names = (of: Measured): (string | null)[] => inNameOrder([...of.values()].map(({ names: [name] }) => name!));
  const [rowNames, columnNames] = [names(down), across === null ? [] : names(across)];
  const [rows, columns] = [rowNames.slice(0, SHOWN_AT_MOST), columnNames.slice(0, SHOWN_AT_MOST)];
  const at = (of: Measured, ...key: (string | null)[]): number => of.get(JSON.stringify(key))?.value ?? 0;
  const total = at(all);
  return {
    rows: rows.map((name) => name ?? "none"),
    columns: across === null ? ["all"] : columns.map((name) => name ?? "none"),
    cells: rows.map((row) => (across === null ? [at(down, row)] : columns.map((column) => at(cells, row, column)))),
    rowTotals: rows.map((row) => at(down, row)),
    columnTotals: across === null ? [total] : columns.map((column) => at(across, column)),
    total,
    moreRows: rowNames.length - rows.length,
    moreColumns: columnNames.length - columns.length,
  };
}

/** Measures by project, since amounts are rounded once for each. */
async function measuredRows(
  { question: { about, pivot }, run }: Asking,
  alone: Sql | null,
  sum: string | null,
  parting: Parting,
): Promise<Loose[]> {
  const ways = parting.map((way) => {
    const name = way === "down_" ? pivot!.rows : pivot!.columns!;
    const shown = shownAs(about, name, way === "down_" ? "d" : "x");
    return { way, sql: called(about, name, shown.sql), join: shown.join };
  });
  const by = ["r.project_id", ...ways.map(({ sql }) => sql)].join(", ");
  const rows: Loose[] = [];
  for (const [within, branches] of [
    [NOTHING, "left out"],
    ...(alone === null || sum === null ? [] : [[alone, "alone"] as const]),
  ] as const) {
    const measured = sum === null ? "count(*)" : sumOf(about, sum, branches);
    rows.push(
      ...(await run(
        [
          `${measured} as measure_`,
          "min(r.currency) as currency_",
          "min(r.scale) as scale_",
          ...ways.map(({ way, sql }) => `${sql} as ${way}`),
        ].join(", "),
        ways.map(({ join }) => join),
        { sql: `${within.sql} group by ${by}`, values: within.values },
      )),
    );
  }
  return rows;
}
