import type { WatchAct, WatchChoices, WatchRow } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { EffectView } from "../shared/dialogs/EffectView.tsx";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { NameChoice } from "../shared/fields/NameChoice.tsx";
import { countWords } from "../shared/words/words.ts";
import { actEffectQuery } from "./queries.ts";
import { useAct } from "./answer/useAct.tsx";

type Act = WatchAct["act"];
type Kind = "pushOut" | "reassign" | "setOwner";
const KINDS: readonly (readonly [Kind, string])[] = [
  ["pushOut", "Push out"],
  ["reassign", "Move to someone else"],
  ["setOwner", "Give an owner"],
];

function Wanted({
  kind,
  choices,
  whose,
  onAct,
}: {
  kind: Kind;
  choices: WatchChoices | undefined;
  whose: string | null;
  onAct: (act: Act | null) => void;
}) {
  const [days, setDays] = useState("5");
  const [reason, setReason] = useState("");
  const [from, setFrom] = useState<string | null>(whose);
  const pushed = (text: string, why: string): void => {
    const number = Number(text);
    onAct(
      Number.isInteger(number) && number >= 1 && number <= 1000 ? { do: "pushOut", days: number, reason: why } : null,
    );
  };
  if (kind === "pushOut") {
    return (
      <span className="flex flex-wrap items-center gap-2">
        by{" "}
        <input
          type="number"
          min={1}
          max={1000}
          className="input input-sm w-20"
          aria-label="Working days"
          title="Each goes to a whole day: what lay within its day moves by a part of one beside"
          value={days}
          onChange={(event) => {
            setDays(event.target.value);
            pushed(event.target.value, reason);
          }}
        />{" "}
        working days, because
        <input
          className="input input-sm w-56"
          aria-label="Why"
          placeholder="why"
          value={reason}
          onChange={(event) => {
            setReason(event.target.value);
            pushed(days, event.target.value);
          }}
        />
      </span>
    );
  }
  const people = choices?.people ?? [];
  if (kind === "setOwner")
    return (
      <NameChoice label="Owner" things={people} onChoose={(to) => onAct(to === null ? null : { do: "setOwner", to })} />
    );
  return (
    <span className="flex flex-wrap items-center gap-2">
      {whose === null && (
        <NameChoice
          label="from anyone"
          things={people}
          width="w-44"
          onChoose={(id) => {
            setFrom(id);
            onAct(null);
          }}
        />
      )}
      <NameChoice
        key={from ?? ""}
        label="to"
        things={people}
        width="w-44"
        onChoose={(to) => onAct(to === null ? null : { do: "reassign", from, to })}
      />
    </span>
  );
}

/** What would move, in each project, before it is done. */
function Preview({ act }: { act: WatchAct }) {
  const { data, error } = useQuery(actEffectQuery(act));
  if (error !== null) return <Failure error={error} />;
  if (data === undefined)
    return (
      <p className="muted text-sm" role="status">
        Calculating what would move …
      </p>
    );
  return (
    <div>
      {data.effects.map(({ project, name, effect }) => (
        <section key={project} className="mb-2">
          <h3 className="text-sm font-semibold">{name}</h3>
          <EffectView effect={effect} />
        </section>
      ))}
      {data.effects.length === 0 && <p className="text-sm">Nothing would change.</p>}
      {data.left.length > 0 && (
        <ul className="undecided text-sm">
          {data.left.slice(0, 12).map(({ project, id, name, why }) => (
            <li key={`${project} ${id}`}>
              {name} stays: {why}.
            </li>
          ))}
          {data.left.length > 12 && <li>and {data.left.length - 12} more.</li>}
        </ul>
      )}
    </div>
  );
}

interface Props {
  readonly rows: readonly Pick<WatchRow, "project" | "activity">[];
  readonly choices: WatchChoices | undefined;
  /** Whose work it is that may be moved to someone else; anyone's where it is left out. */
  readonly from?: string;
  readonly onDone: () => void;
}

/** What can be done with the rows that are chosen, and what that would move. */
export function ActBar({ rows, choices, from, onDone }: Props) {
  const [kind, setKind] = useState<Kind>("pushOut");
  const [act, setAct] = useState<Act | null>({ do: "pushOut", days: 5, reason: "" });
  const doing = useAct();
  const chosen = [
    ...new Map(rows.map(({ project, activity }) => [`${project} ${activity}`, { project, activity }])).values(),
  ];
  const whole: WatchAct | null = act === null ? null : { rows: chosen, act };
  return (
    <aside aria-label="Effect preview" className="w-96 shrink-0 overflow-auto border-l rule px-4 py-2">
      <div className="flex items-baseline justify-between">
        <h2 className="text-base">{countWords(chosen.length, "activity", "activities")} selected</h2>
        <button type="button" className="btn btn-ghost btn-xs" onClick={onDone}>
          Select none
        </button>
      </div>
      <div className="my-2 flex gap-1" role="group" aria-label="What to do">
        {KINDS.map(([each, words]) => (
          <button
            key={each}
            type="button"
            className={`btn btn-xs ${kind === each ? "btn-active" : ""}`}
            aria-pressed={kind === each}
            onClick={() => {
              setKind(each);
              setAct(each === "pushOut" ? { do: "pushOut", days: 5, reason: "" } : null);
            }}
          >
            {words}
          </button>
        ))}
      </div>
      <div className="text-sm">
        <Wanted key={kind} kind={kind} choices={choices} whose={from ?? null} onAct={setAct} />
      </div>
      {whole !== null && (
        <div className="mt-2 border-t rule pt-2">
          <Preview act={whole} />
        </div>
      )}
      {doing.error !== null && <Failure error={doing.error} />}
      <button
        type="button"
        className="btn btn-primary btn-sm mt-2"
        disabled={whole === null || doing.isPending}
        onClick={() => whole !== null && doing.mutate(whole, { onSuccess: onDone })}
      >
        {KINDS.find(([each]) => each === kind)![1]}
      </button>
    </aside>
  );
}
