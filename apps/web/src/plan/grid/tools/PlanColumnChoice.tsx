import { ArrowDown, ArrowUp, Columns3 } from "lucide-react";
import type { PlanColumns } from "../columns/usePlanColumns.ts";

/** Which columns the plan shows, and in which order. */
export function PlanColumnChoice({ columns: { all, hidden, choose, move, asAtFirst } }: { columns: PlanColumns }) {
  return (
    <details className="relative">
      <summary className="btn btn-ghost btn-sm list-none">
        <Columns3 size={14} aria-hidden="true" /> Columns
      </summary>
      <div className="absolute z-30 mt-1 max-h-96 w-72 overflow-auto border rule bg-base-100 p-2 text-sm">
        <ul>
          {all.slice(1).map(({ id, head, hint }, i) => (
            <li key={id} className="flex items-center gap-1">
              <label className="flex grow items-center gap-2" title={hint}>
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  checked={!hidden.includes(id)}
                  onChange={(event) => choose(id, event.target.checked)}
                />{" "}
                {head}
              </label>
              <button
                type="button"
                className="btn btn-ghost btn-xs btn-square"
                aria-label={`${head} further left`}
                disabled={i === 0}
                onClick={() => move(id, -1)}
              >
                <ArrowUp size={12} aria-hidden="true" />
              </button>
              <button
                type="button"
                className="btn btn-ghost btn-xs btn-square"
                aria-label={`${head} further right`}
                disabled={i === all.length - 2}
                onClick={() => move(id, 1)}
              >
                <ArrowDown size={12} aria-hidden="true" />
              </button>
            </li>
          ))}
        </ul>
        <p className="muted mt-1">
          Drag the edge of a heading to make a column wider.{" "}
          <button type="button" className="cursor-pointer underline" onClick={asAtFirst}>
            As at first
          </button>
        </p>
      </div>
    </details>
  );
}
