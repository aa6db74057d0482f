import type { BroughtList } from "@chronometra/contract";
import { Fragment } from "react";

/** So many lines are shown; those to be mended come first. */
const SHOWN = 200;
/** Columns of words. */
const LONG = new Set(["title", "text", "response"]);

/** The lines of a list, as they were understood: what is to be mended first. */
export function ListLines({ list: { lines, headings, columns } }: { list: BroughtList }) {
  const used = columns.filter(({ id }) => headings.some(({ column }) => column === id));
  const ordered = lines.toSorted((a, b) => Number(b.faults.length > 0) - Number(a.faults.length > 0) || a.row - b.row);
  return (
    <div className="max-h-[45vh] overflow-auto border rule" tabIndex={0} role="region" aria-label="What was understood">
      <table className="ledger w-full text-sm">
        <thead>
          <tr>
            <th className="num">Row</th>
            {used.map(({ id, name }) => (
              <th key={id}>{name}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ordered.slice(0, SHOWN).map(({ row, said, faults, isThere }) => (
            <Fragment key={row}>
              <tr className={isThere ? "muted" : ""}>
                <td className="num align-top">{row}</td>
                {used.map(({ id }) => (
                  <td
                    key={id}
                    className={`align-top ${LONG.has(id) ? "min-w-40 max-w-72 break-words" : "whitespace-nowrap"}`}
                  >
                    {said[id] ?? "–"}
                    {id === "title" && isThere && <span className="block text-xs">stands there already</span>}
                  </td>
                ))}
              </tr>
              {faults.length > 0 && (
                <tr>
                  <td />
                  <td colSpan={used.length} className="adverse text-xs">
                    {faults.map((fault) => (
                      <span key={fault} className="block">
                        {fault}
                      </span>
                    ))}
                  </td>
                </tr>
              )}
            </Fragment>
          ))}
        </tbody>
      </table>
      {lines.length > SHOWN && (
        <p className="muted px-2 py-1 text-sm">and {lines.length - SHOWN} more rows, understood</p>
      )}
    </div>
  );
}
