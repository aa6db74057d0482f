import type { Thresholds } from "@chronometra/core";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { readNumber } from "../../shared/words/amounts.ts";
import { usePortfolioWrite } from "../usePortfolioWrite.ts";
import { Part } from "./Part.tsx";

const LIMITS: readonly (readonly [Exclude<keyof Thresholds, "deadlines">, string, string])[] = [
  ["spiBelow", "SPI below", ""],
  ["cpiBelow", "CPI below", ""],
  ["spitBelow", "SPI(t) of earned schedule below", ""],
  ["driftOver", "Finish late by more than", "d"],
  ["movedOver", "Finish moved since the last period by more than", "d"],
  ["overrunOver", "Estimate at completion over the budget by more than", "%"],
];

/** The limits beyond which a manager is asked to explain; an empty one asks nothing. */
export function ThresholdsPart({ thresholds }: { thresholds: Thresholds }) {
  const write = usePortfolioWrite("PUT /api/portfolio/thresholds");
  return (
    <Part title="When a project is to be explained">
      <p className="muted pb-2 text-sm">
        A project that breaks one of these is marked on the portfolio, and its manager is asked for an explanation,
        which stays with the period. An empty limit asks nothing.
      </p>
      <ul>
        {LIMITS.map(([rule, words, unit]) => (
          <li key={rule} className="flex items-center gap-2 border-b rule py-1 text-sm">
            <span className="flex-1">{words}</span>
            <CommitField
              label={words}
              width="w-20"
              numeric
              placeholder="none"
              value={thresholds[rule] === null ? "" : String(thresholds[rule])}
              onCommit={async (text) => {
                const value = text.trim() === "" ? null : readNumber(text);
                if (value === null && text.trim() !== "") return "Write a number, as 0.9 or 10.";
                try {
                  await write.mutateAsync({ body: { ...thresholds, [rule]: value } });
                  return null;
                } catch (error) {
                  return error instanceof Error ? error.message : String(error);
                }
              }}
            />
            <span className="w-4">{unit}</span>
          </li>
        ))}
        <li className="py-1 text-sm">
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={thresholds.deadlines}
              onChange={(event) => write.mutate({ body: { ...thresholds, deadlines: event.target.checked } })}
            />
            A deadline is broken, or will be
          </label>
        </li>
      </ul>
    </Part>
  );
}
