import type { Endings as Answers, QueuedReport, ReportsEffect, WindowsHeld } from "@chronometra/contract";
import { keepPreviousData, useMutation, useQuery, useQueryClient, type UseQueryResult } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { countWords } from "../../shared/words/words.ts";
import { acceptSums } from "./acceptSums.ts";
import { AssumedStarts, Endings } from "../Endings.tsx";
import { effectQuery, refetchDecided } from "../queries.ts";
import { Windows } from "./Windows.tsx";

interface Props {
  readonly reports: readonly QueuedReport[];
  readonly onDone: () => void;
}

/** Whether windows are held by accepting, and what stands in its way; nothing where it is empty. */
function standingOf(effects: ReportsEffect): { isHeld: boolean; inTheWay: string } {
  const isOpen = effects.some(({ asked }) => asked.some(({ answer }) => answer === null));
  const some = (wanted: "lost" | "held"): boolean =>
    effects.some(({ windows }) => windows.some(({ outcome }) => outcome === wanted));
  return {
    isHeld: some("held"),
    inTheWay: isOpen ? "Say first what each 100% ends." : some("lost") ? "A window selected cannot be held." : "",
  };
}

/** That the effect is on its way, or why it is not known. */
function NotKnown({ effect: { data, error } }: { effect: UseQueryResult<ReportsEffect> }) {
  if (error !== null) return <Failure error={error} />;
  return data === undefined ? (
    <p className="muted text-sm" role="status">
      Calculating …
    </p>
  ) : null;
}

/** What it would move, project by project, with what is asked and which windows are held. */
function Moved({
  effects,
  endings,
  onAnswer,
  hold,
  onHold,
}: {
  effects: ReportsEffect;
  endings: Answers;
  onAnswer: (answers: Answers) => void;
  hold: WindowsHeld;
  onHold: (hold: WindowsHeld) => void;
}) {
  const others = (project: string, activity: string): WindowsHeld =>
    hold.filter((each) => each.project !== project || each.activity !== activity);
  return (
    <>
      <Endings effects={effects} answers={endings} onAnswer={onAnswer} />
      {effects.map((of) => (
        <section key={of.project} className="pb-2">
          {effects.length > 1 && <h3 className="border-b-2 border-current text-sm">{of.projectName}</h3>}
          <AssumedStarts of={of} />
          <EffectView effect={of.effect} />
          <Windows
            of={of}
            hold={hold}
            onHold={(activity, on) =>
              onHold([...others(of.project, activity), ...(on ? [{ project: of.project, activity }] : [])])
            }
          />
        </section>
      ))}
    </>
  );
}

/**
 * What accepting the selected reports would do, project by project, and the decision, which stays in sight below it.
 */
export function Decision({ reports, onDone }: Props) {
  const client = useQueryClient();
  const [hold, setHold] = useState<WindowsHeld>([]);
  const [endings, setEndings] = useState<Answers>({});
  const ids = reports.map(({ id }) => id);
  const effect = useQuery({ ...effectQuery(ids, hold, endings), placeholderData: keepPreviousData });
  const [word, setWord] = useState("");
  const decide = useMutation({
    mutationFn: (decision: "accept" | "return") =>
      call("POST /api/reports/decision", { body: { ids, decision, word, hold, endings } }),
    onSuccess: (_done, decision) => {
      toast(
        `${countWords(ids.length, "report", "reports")} ${decision === "return" ? "returned" : "accepted; the time is posted"}.`,
      );
      setWord("");
      onDone();
      refetchDecided(client);
    },
  });
  const isKnown = effect.data !== undefined && !effect.isPlaceholderData && effect.error === null;
  const { isHeld, inTheWay } = standingOf(effect.data ?? []);
  return (
    <>
      <h2 className="text-base">Accepting {countWords(ids.length, "report", "reports")} would</h2>
      <NotKnown effect={effect} />
      <div
        aria-busy={effect.isFetching}
        className="lg:min-h-0 lg:flex-1 lg:overflow-auto"
        tabIndex={0}
        role="region"
        aria-label="What it would move"
      >
        {effect.data !== undefined && (
          <Moved
            effects={effect.data}
            endings={endings}
            onAnswer={(answers) => setEndings({ ...endings, ...answers })}
            hold={hold}
            onHold={setHold}
          />
        )}
      </div>
      <div className="sticky bottom-0 border-t-2 border-current bg-base-100 pt-1 pb-2">
        {isKnown && (
          <p className="text-sm" role="status" aria-label="In all">
            {acceptSums(reports, effect.data).join(" · ") || "No cost and no date moves."}
          </p>
        )}
        <label className="mt-1 flex flex-col">
          <span className="text-sm font-semibold">A word to the sender</span>
          <input
            className="input input-sm w-full"
            value={word}
            placeholder="needed to return"
            onChange={(event) => setWord(event.target.value)}
          />
        </label>
        {decide.error !== null && <Failure error={decide.error} />}
        <div className="mt-2 flex items-center gap-2">
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={decide.isPending || !isKnown || inTheWay !== ""}
            onClick={() => decide.mutate("accept")}
          >
            {isHeld ? "Accept and hold" : "Accept"}
          </button>
          <button
            type="button"
            className="btn btn-sm"
            disabled={decide.isPending || word.trim() === ""}
            onClick={() => decide.mutate("return")}
          >
            Return
          </button>
          {isKnown && <span className="undecided text-sm">{inTheWay}</span>}
        </div>
      </div>
    </>
  );
}
