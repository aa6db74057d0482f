import { CHECKS, SILENT_DAYS, type QualityLimits } from "@chronometra/core";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { readNumber } from "../../shared/words/amounts.ts";
import { numberWords } from "../../shared/words/words.ts";
import { usePortfolioWrite } from "../usePortfolioWrite.ts";
import { Part } from "./Part.tsx";

/** Limits of the fourteen checks; an empty one is the published one. */
export function QualityLimitsPart({ limits }: { limits: QualityLimits }) {
  const write = usePortfolioWrite("PUT /api/portfolio/quality-limits");
  const store = async (body: QualityLimits): Promise<string | null> => {
    try {
      await write.mutateAsync({ body });
      return null;
    } catch (error) {
      return error instanceof Error ? error.message : String(error);
    }
  };
  return (
    <Part title="When a plan can be trusted">
      <p className="muted pb-2 text-sm">
        The limits of the fourteen checks for this portfolio. An empty one is the published one, which is shown beside
        it.
      </p>
      <ul>
        {CHECKS.filter(({ rule }) => rule !== "holds").map((check) => {
          const { number, name, rule, limit } = check;
          const factor = number >= 13 ? 1 : 100;
          const own = limits[number];
          return (
            <li key={number} className="flex items-center gap-2 border-b rule py-0.5 text-sm">
              <span className="muted w-5 text-right">{number}</span>
              <span className="flex-1">{name}</span>
              <span className="muted">{rule === "atMost" ? "at most" : "at least"}</span>
              <CommitField
                label={`Limit of ${name}`}
                width="w-16"
                numeric
                placeholder={String(Number((limit * factor).toFixed(2)))}
                value={own === undefined ? "" : String(Number((own * factor).toFixed(4)))}
                onCommit={async (text) => {
                  const value = text.trim() === "" ? null : readNumber(text);
                  if (value === null && text.trim() !== "") return "Write a number, as 5 or 0.95.";
                  const { [number]: _former, ...others } = limits;
                  return store(value === null ? others : { ...others, [number]: value / factor });
                }}
              />
              <span className="w-4">{factor === 100 ? "%" : ""}</span>
              <span className="muted w-28 text-right">
                published {numberWords(limit * factor, 2)}
                {factor === 100 ? "%" : ""}
              </span>
            </li>
          );
        })}
        <li className="flex items-center gap-2 border-b rule py-0.5 text-sm">
          <span className="flex-1 pl-7">Work that has begun, without news for more than</span>
          <CommitField
            label="Days without news"
            width="w-16"
            numeric
            placeholder={String(SILENT_DAYS)}
            value={limits["silentDays"] === undefined ? "" : String(limits["silentDays"])}
            onCommit={async (text) => {
              const value = text.trim() === "" ? null : Number(text);
              if (value !== null && !(Number.isInteger(value) && value > 0))
                return "Write a whole number of days, as 14.";
              const { silentDays: _former, ...others } = limits;
              return store(value === null ? others : { ...others, silentDays: value });
            }}
          />
          <span className="w-4">d</span>
          <span className="muted w-28 text-right">common {SILENT_DAYS}</span>
        </li>
      </ul>
    </Part>
  );
}
