import type { WatchAnswer, WatchChoices, WatchQuestion } from "@chronometra/contract";
import { useCallback } from "react";
import type { Inks } from "../../shared/charts/Chart.tsx";
import { ChartInView } from "../../shared/charts/ChartInView.tsx";
import { countWords } from "../../shared/words/words.ts";
import { COUNTED, fieldsOf, valueWords } from "../question/questionWords.ts";

interface Props {
  readonly question: WatchQuestion;
  readonly answer: WatchAnswer;
  readonly choices: WatchChoices | undefined;
  readonly onQuestion: (question: WatchQuestion) => void;
}

type Pivot = NonNullable<WatchQuestion["pivot"]>;

function Choice({
  label,
  value,
  things,
  none,
  onChoose,
}: {
  label: string;
  value: string | null;
  things: readonly (readonly [string, string])[];
  none?: string;
  onChoose: (value: string | null) => void;
}) {
  return (
    <label className="inline-flex items-center gap-1 text-sm">
      {label}
      <select
        className="select select-sm w-auto"
        value={value ?? ""}
        onChange={(event) => onChoose(event.target.value === "" ? null : event.target.value)}
      >
        {none !== undefined && <option value="">{none}</option>}
        {things.map(([id, words]) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

type PivotTable = NonNullable<WatchAnswer["pivot"]>;

/** With more columns than there are inks to tell apart, the bars show what is in all. */
const BARS = [
  "--color-primary",
  "--color-accent",
  "--color-success",
  "--color-warning",
  "--color-base-content",
  "--color-error",
] as const;

interface CountTableProps {
  readonly table: PivotTable;
  /** The name of what goes down, and whether something goes across. */
  readonly head: string | undefined;
  readonly across: boolean;
  readonly said: (value: number) => string;
}

/** The counts, with what they come to down and across. */
function CountTable({ table, head, across, said }: CountTableProps) {
  return (
    <table className="ledger">
      <thead>
        <tr>
          <th scope="col">{head}</th>
          {across &&
            table.columns.map((name) => (
              <th key={name} scope="col" className="num max-w-32 truncate" title={name}>
                {name}
              </th>
            ))}
          <th scope="col" className="num">
            In all
          </th>
        </tr>
      </thead>
      <tbody>
        {table.rows.map((name, r) => (
          <tr key={name}>
            <th scope="row" className="max-w-56 truncate text-left font-normal" title={name}>
              {name}
            </th>
            {across &&
              table.cells[r]!.map((cell, c) => (
                <td key={c} className="num">
                  {said(cell)}
                </td>
              ))}
            <td className="num">{said(table.rowTotals[r]!)}</td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr className="total">
          <td>In all</td>
          {across &&
            table.columns.map((name, c) => (
              <td key={name} className="num">
                {said(table.columnTotals[c]!)}
              </td>
            ))}
          <td className="num">{said(table.total ?? 0)}</td>
        </tr>
      </tfoot>
    </table>
  );
}

/** The counts as bars: stacked where few enough stand across. */
function barsOf(table: PivotTable | null, said: (value: number) => string, { of, text }: Inks) {
  const { rows, columns, cells, rowTotals } = table ?? { rows: [], columns: [], cells: [], rowTotals: [] };
  const stacked = columns.length > 1 && columns.length <= BARS.length;
  return {
    grid: { left: 14, right: 24, top: 30, bottom: 4, containLabel: true },
    legend: stacked ? { top: 0, left: 0, right: 30, type: "scroll", textStyle: text } : { show: false },
    tooltip: {
      trigger: "item",
      backgroundColor: of("--color-base-100"),
      borderColor: of("--color-base-content"),
      textStyle: text,
      valueFormatter: (value: unknown) => said(Number(value)),
    },
    yAxis: {
      type: "category",
      inverse: true,
      data: rows,
      axisLabel: { ...text, width: 150, overflow: "truncate" },
      axisTick: { show: false },
    },
    xAxis: {
      type: "value",
      axisLabel: { ...text, hideOverlap: true, formatter: (value: number) => (value === 0 ? "0" : said(value)) },
      splitLine: { lineStyle: { color: of("--color-base-300") } },
    },
    series: (stacked ? columns : ["in all"]).map((name, c) => ({
      name,
      type: "bar",
      stack: "all",
      barMaxWidth: 16,
      itemStyle: { color: of(BARS[c]!), borderColor: of("--color-base-100") },
      data: stacked ? cells.map((row) => row[c]) : rowTotals,
    })),
  };
}

/** What is not shown of the counts, and why their totals are less than their sums. */
function CountNotes({ table: { moreRows, moreColumns }, several }: { table: PivotTable; several: boolean }) {
  const more = [
    ...(moreRows > 0 ? [countWords(moreRows, "row", "rows")] : []),
    ...(moreColumns > 0 ? [countWords(moreColumns, "column", "columns")] : []),
  ];
  return (
    <>
      {more.length > 0 && (
        <p className="muted pt-1 text-sm">{more.join(" and ")} more are not shown; the totals have them in.</p>
      )}
      {several && <p className="muted pt-1 text-sm">One may stand under several names; totals count each once.</p>}
    </>
  );
}

/** The same rows counted or summed: one field down, another across, as a table and as bars. */
export function PivotView({ question, answer, choices, onQuestion }: Props) {
  const fields = fieldsOf(question.about, choices);
  const pivot = question.pivot!;
  const table = answer.pivot;
  const put = (part: Partial<Pivot>): void => onQuestion({ ...question, pivot: { ...pivot, ...part } });
  const things = Object.entries(fields)
    .filter(([, { type }]) => ["choice", "person", "role", "date", "yesNo", "text"].includes(type))
    .map(([id, { head }]) => [id, head] as const);
  const summed = Object.entries(fields)
    .filter(([, field]) => field.summed === true)
    .map(([id, { head }]) => [id, head] as const);
  const type = pivot.sum === null ? "number" : (fields[pivot.sum]?.type ?? "number");
  const [one, many] = COUNTED[question.about];
  const several = [pivot.rows, pivot.columns ?? ""].some((field) => fields[field]?.several === true);
  const said = useCallback(
    (value: number): string => (value === 0 ? "" : valueWords(type, value, answer.money.minorDigits)),
    [type, answer.money.minorDigits],
  );
  const option = useCallback((inks: Inks) => barsOf(table, said, inks), [table, said]);
  if (table === null)
    return (
      <p className="muted text-sm" role="status">
        Counting …
      </p>
    );
  return (
    <section aria-label="PivotTable" className="border-b rule pb-3">
      <div className="flex flex-wrap items-center gap-3 py-1.5">
        <Choice label="Down" value={pivot.rows} things={things} onChoose={(rows) => rows !== null && put({ rows })} />
        <Choice
          label="across"
          value={pivot.columns}
          things={things}
          none="nothing"
          onChoose={(columns) => put({ columns })}
        />
        <Choice label="counting" value={pivot.sum} things={summed} none={many} onChoose={(sum) => put({ sum })} />
      </div>
      {table.total === null ? null : table.rows.length === 0 ? (
        <p className="muted text-sm">Nothing to count.</p>
      ) : (
        <div className="grid gap-6 xl:grid-cols-[3fr_2fr]">
          <div className="max-h-96 overflow-auto" tabIndex={0} aria-label="Table of counts" role="region">
            <CountTable table={table} head={fields[pivot.rows]?.head} across={pivot.columns !== null} said={said} />
            <CountNotes table={table} several={several} />
          </div>
          <div className="max-h-96 overflow-y-auto" tabIndex={0} role="region" aria-label="Bars">
            <ChartInView
              name="Counts"
              words={`Bars: ${pivot.sum === null ? many : fields[pivot.sum]?.head} by ${fields[pivot.rows]?.head.toLowerCase()}; the table beside says the same. ${countWords(answer.count, one, many)} in all.`}
              height={60 + table.rows.length * 18}
              option={option}
            />
          </div>
        </div>
      )}
    </section>
  );
}
