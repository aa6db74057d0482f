import { LIMIT_WORDS, type Portfolio } from "@chronometra/contract";
import { limitedBy, limitsIn, type Thresholds } from "@chronometra/core";
import { useState } from "react";
import { inTreeOrder } from "../../project/programmeTree.ts";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { readNumber } from "../../shared/words/amounts.ts";
import { usePortfolioWrite } from "../usePortfolioWrite.ts";
import { Part } from "./Part.tsx";
import { holdsEverywhere, holdsIn, useMe } from "../../shared/session/session.ts";

/** What is refused has been told at the foot of the page by whoever sent it. */
const told = (): void => undefined;

interface LimitsProps {
  readonly limits: Thresholds;
  /** Whether they are taken from above, and only read here. */
  readonly fromAbove: boolean;
  readonly onWrite: (limits: Thresholds) => Promise<unknown>;
}

/** Limits, each to be written where it stands. */
function Limits({ limits, fromAbove, onWrite }: LimitsProps) {
  return (
    <ul>
      {LIMIT_WORDS.map(([rule, words, unit]) => (
        <li key={rule} className="flex items-center gap-2 border-b rule py-1 text-sm">
          <span className="flex-1">{words}</span>
          <CommitField
            label={words}
            width="w-20"
            numeric
            placeholder="none"
            disabled={fromAbove}
            value={limits[rule] === null ? "" : String(limits[rule])}
            onCommit={async (text) => {
              const value = text.trim() === "" ? null : readNumber(text);
              if (value === null && text.trim() !== "") return "Write a number, as 0.9 or 10.";
              try {
                await onWrite({ ...limits, [rule]: value });
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
            disabled={fromAbove}
            checked={limits.deadlines}
            onChange={(event) => void onWrite({ ...limits, deadlines: event.target.checked }).catch(told)}
          />
          A deadline is broken, or will be
        </label>
      </li>
    </ul>
  );
}

/** The limits beyond which a manager is asked to explain, of all projects or of a group; an empty one asks nothing. */
export function ThresholdsPart({ portfolio }: { portfolio: Pick<Portfolio, "thresholds" | "programmes"> }) {
  const { thresholds, programmes } = portfolio;
  const me = useMe();
  const isHouse = holdsEverywhere(me, "controller");
  const own = programmes.filter(({ id }) => holdsIn(me, "controller", id));
  const [chosen, setOf] = useState<string | null>(null);
  const of = chosen ?? (isHouse ? "" : (own[0]?.id ?? ""));
  const house = usePortfolioWrite("PUT /api/portfolio/thresholds");
  const ofGroup = usePortfolioWrite("PUT /api/programmes/:programme/thresholds");
  const group = programmes.find(({ id }) => id === of);
  const limits = group === undefined ? thresholds : limitsIn(programmes, thresholds, group.id);
  const writeOwn = (value: Thresholds | null): Promise<unknown> =>
    ofGroup.mutateAsync({ params: { programme: of }, body: { thresholds: value } });
  return (
    <Part title="When a project is to be explained">
      <p className="muted pb-2 text-sm">
        A project that breaks one of these is marked on the portfolio, and its manager is asked for an explanation,
        which stays with the period. An empty limit asks nothing.
      </p>
      {own.length > 0 && (
        <p className="flex flex-wrap items-center gap-2 pb-1 text-sm">
          <label className="flex items-center gap-2">
            Limits of
            <select className="select select-xs w-56" value={of} onChange={({ target }) => setOf(target.value)}>
              {isHouse && <option value="">the whole portfolio</option>}
              {inTreeOrder(programmes)
                .filter(({ programme }) => own.some(({ id }) => id === programme.id))
                .map(({ programme, depth }) => (
                  <option key={programme.id} value={programme.id}>
                    {"\u2003".repeat(depth)}
                    {programme.name}
                  </option>
                ))}
            </select>
          </label>
          {group !== undefined && (
            <>
              <span className="muted">
                {group.thresholds === null
                  ? `as for ${limitedBy(programmes, group.id)?.name ?? "the whole portfolio"}`
                  : "its own"}
              </span>
              <button
                type="button"
                className="btn btn-xs"
                disabled={ofGroup.isPending}
                onClick={() => void writeOwn(group.thresholds === null ? limits : null).catch(told)}
              >
                {group.thresholds === null ? "Give it limits of its own" : "Take them from above"}
              </button>
            </>
          )}
        </p>
      )}
      <Limits
        key={of}
        limits={limits}
        fromAbove={group !== undefined && group.thresholds === null}
        onWrite={(value) => (group === undefined ? house.mutateAsync({ body: value }) : writeOwn(value))}
      />
    </Part>
  );
}
