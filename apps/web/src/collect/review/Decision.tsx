import type { Endings as Answers, QueuedReport, WindowsHeld } from "@chronometra/contract";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
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
  const isOpen = effect.data?.some(({ asked }) => asked.some(({ answer }) => answer === null)) === true;
  const isLost = effect.data?.some(({ windows }) => windows.some(({ outcome }) => outcome === "lost")) === true;
  const isHeld = effect.data?.some(({ windows }) => windows.some(({ outcome }) => outcome === "held")) === true;
  const isKnown = effect.data !== undefined && !effect.isPlaceholderData;
  const inTheWay = isOpen ? "Say first what each 100% ends." : isLost ? "A window selected cannot be held." : "";
  const onHold =
    (project: string) =>
    (activity: string, on: boolean): void =>
      setHold([
        ...hold.filter((each) => each.project !== project || each.activity !== activity),
        ...(on ? [{ project, activity }] : []),
      ]);
  return (
    <>
      <h2 className="text-base">Accepting {countWords(ids.length, "report", "reports")} would</h2>
      {effect.error !== null && <Failure error={effect.error} />}
      {effect.data === undefined && effect.error === null && (
        <p className="muted text-sm" role="status">
          Calculating …
        </p>
      )}
      <div
        aria-busy={effect.isFetching}
        className="lg:min-h-0 lg:flex-1 lg:overflow-auto"
        tabIndex={0}
        role="region"
        aria-label="What it would move"
      >
        {effect.data !== undefined && (
          <Endings
            effects={effect.data}
            answers={endings}
            onAnswer={(answers) => setEndings({ ...endings, ...answers })}
          />
        )}
        {effect.data?.map((of) => (
          <section key={of.project} className="pb-2">
            {effect.data.length > 1 && <h3 className="border-b-2 border-current text-sm">{of.projectName}</h3>}
            <AssumedStarts of={of} />
            <EffectView effect={of.effect} />
            <Windows of={of} hold={hold} onHold={onHold(of.project)} />
          </section>
        ))}
      </div>
      <div className="sticky bottom-0 border-t-2 border-current bg-base-100 pt-1 pb-2">
        {isKnown && effect.error === null && (
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
            disabled={decide.isPending || !isKnown || effect.error !== null || inTheWay !== ""}
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
