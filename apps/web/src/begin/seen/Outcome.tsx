import type { BeginEffectAsked, BegunEffect } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { countWords, dateWords, money } from "../../shared/words/words.ts";
import { beginEffectQuery } from "./queries.ts";
import { Outline } from "./Outline.tsx";

/** What would be begun, in a sentence. */
function Sum({ effect }: { readonly effect: BegunEffect }) {
  const { activities, milestones, links, workMinutes, costMinor, currency, minorDigits, people } = effect;
  return (
    <p>
      Begins on <strong>{dateWords(effect.start)}</strong>
      {effect.finish !== null && (
        <>
          {" "}
          and is finished on <strong>{dateWords(effect.finish)}</strong>
        </>
      )}
      . {countWords(activities, "activity", "activities")}, {countWords(milestones, "milestone", "milestones")} and{" "}
      {countWords(links, "link", "links")}; {formatHours(workMinutes)} of work, {money(costMinor, minorDigits)}{" "}
      {currency} planned
      {people.length > 0 && <>; people: {people.join(", ")}</>}.
    </p>
  );
}

interface Props {
  /** `null` while something is missing that `wanting` names. */
  readonly asked: BeginEffectAsked | null;
  readonly wanting: string;
  /** What is asked about what is seen. */
  readonly children?: (effect: BegunEffect) => ReactNode;
}

/** What a project begun so would be, worked out while it is said. */
export function Outcome({ asked, wanting, children }: Props) {
  const query = useQuery(beginEffectQuery(asked));
  const { data, error, isFetching } = query;
  if (asked === null) return <p className="muted pt-4">{wanting}</p>;
  return (
    <section className="pt-4" aria-label="What it comes to" aria-busy={isFetching}>
      <h2 className="pb-1 text-base">
        What it comes to{" "}
        <span role="status" className="muted text-sm font-normal">
          {isFetching && "Calculating …"}
        </span>
      </h2>
      {error !== null ? (
        <Failure error={error} />
      ) : (
        data !== undefined && (
          <>
            <Sum effect={data} />
            {children?.(data)}
            <div className="pt-3">
              <Outline effect={data} />
            </div>
          </>
        )
      )}
    </section>
  );
}
