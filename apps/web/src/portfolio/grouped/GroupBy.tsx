import type { Portfolio } from "@chronometra/contract";
import { groupings, levelsText, MOST_LEVELS } from "./grouping.ts";

interface Props {
  readonly levels: readonly string[];
  readonly fields: Portfolio["fields"];
  readonly onBy: (by: string | null) => void;
}

/** By what the projects are grouped, up to three levels deep. */
export function GroupBy({ levels, fields, onBy }: Props) {
  const all = groupings(fields);
  const shown = Math.min(MOST_LEVELS, levels.length + 1);
  return (
    <span className="flex items-center gap-1 text-sm">
      {Array.from({ length: shown }, (_, i) => {
        const others = levels.filter((_by, j) => j !== i);
        return (
          <label key={i} className="flex items-center gap-1">
            {i === 0 ? "by" : "then"}
            <select
              className="select select-sm w-auto"
              aria-label={i === 0 ? "Group projects by" : `Then by, ${i + 1}`}
              value={levels[i] ?? ""}
              onChange={(event) =>
                onBy(
                  levelsText(
                    event.target.value === ""
                      ? levels.slice(0, i)
                      : [...levels.slice(0, i), event.target.value, ...levels.slice(i + 1)],
                  ),
                )
              }
            >
              <option value="">{i === 0 ? "nothing" : "…"}</option>
              {all
                .filter(([by]) => !others.includes(by))
                .map(([by, name]) => (
                  <option key={by} value={by}>
                    {name}
                  </option>
                ))}
            </select>
          </label>
        );
      })}
    </span>
  );
}
