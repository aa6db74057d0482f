import type { OutsideLine, OutsideTargets, ReportsEffect } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { countWords } from "../../shared/words/words.ts";
import { linesEffectQuery } from "./queries.ts";
import { MatchByHand } from "./outsideColumns.tsx";

/** What accepting corrections does to what was posted, and to what was not. */
function correctedWords(lines: readonly OutsideLine[]): string {
  const posted = lines.filter(({ was }) => was?.posted === true).length;
  const rest = lines.length - posted;
  return [
    ...(posted > 0 ? [`${countWords(posted, "line is", "lines are")} posted: the difference is posted beside it`] : []),
    ...(rest > 0
      ? [`${countWords(rest, "line is", "lines are")} not posted yet, and will say what its system says now`]
      : []),
  ]
    .join("; ")
    .concat(".");
}

/** Sets lines aside with a reason, or takes them up again. */
function Aside({ isAside, busy, onAside }: { isAside: boolean; busy: boolean; onAside: (why: string | null) => void }) {
  const [why, setWhy] = useState("");
  return isAside ? (
    <button type="button" className="btn btn-sm" disabled={busy} onClick={() => onAside(null)}>
      Restore
    </button>
  ) : (
    <>
      <input
        className="input input-sm w-56"
        aria-label="Why it is set aside"
        placeholder="why it is set aside"
        value={why}
        onChange={(event) => setWhy(event.target.value)}
      />
      <button
        type="button"
        className="btn btn-sm"
        disabled={busy || why.trim().length < 3}
        onClick={() => onAside(why)}
      >
        Set aside
      </button>
    </>
  );
}

/** Posting lines, setting them aside, and accepting what was corrected. */
function useLineActs(ids: string[], onDone: () => void) {
  const client = useQueryClient();
  const after = (words: string): void => {
    toast(words);
    onDone();
    void client.invalidateQueries();
  };
  const post = useMutation({
    mutationFn: () => call("POST /api/outside/post", { body: { ids } }),
    onSuccess: ({ costs: posted, reports }) =>
      after(
        [
          posted > 0 ? `${countWords(posted, "cost", "costs")} posted` : "",
          reports > 0 ? `${countWords(reports, "time entry waits", "time entries wait")} to be reviewed` : "",
        ]
          .filter((words) => words !== "")
          .join("; ") + ".",
      ),
  });
  const aside = useMutation({
    mutationFn: (reason: string | null) => call("POST /api/outside/aside", { body: { ids, why: reason } }),
    onSuccess: (_done, reason) => after(reason === null ? "Taken up again." : "Set aside, not dropped."),
  });
  const correct = useMutation({
    mutationFn: () => call("POST /api/outside/corrections", { body: { ids } }),
    onSuccess: () => after(`${countWords(ids.length, "correction", "corrections")} accepted.`),
  });
  return { post, aside, correct, error: post.error ?? aside.error ?? correct.error };
}

const acceptWords = (count: number): string => `Accept ${count === 1 ? "the correction" : "the corrections"}`;

/** The line that can be matched by hand: a single one that waits, and corrects none. */
function matchable([line, ...others]: readonly OutsideLine[]): OutsideLine | null {
  if (line === undefined || others.length > 0) return null;
  return line.state === "aside" || line.state === "correction" ? null : line;
}

function Effects({ effects, act }: { effects: ReportsEffect; act: "accepting" | "posting" }) {
  return (
    <div className="grid gap-4 md:grid-cols-2">
      {effects.map((of) => (
        <section key={of.project}>
          <h3 className="text-sm">
            {of.projectName}: {act} would
          </h3>
          <EffectView effect={of.effect} />
        </section>
      ))}
    </div>
  );
}

/** What can be done with the lines that are ticked, with what it would come to. */
export function LineActions({
  lines,
  targets,
  onDone,
}: {
  lines: readonly OutsideLine[];
  targets: OutsideTargets;
  onDone: () => void;
}) {
  const ids = lines.map(({ id }) => id);
  const allAre = (wanted: OutsideLine["state"]): boolean => lines.every(({ state }) => state === wanted);
  const corrected = allAre("correction");
  const ready = corrected || allAre("matched");
  const costs = ready ? lines.filter(({ kind }) => kind === "cost").map(({ id }) => id) : [];
  const effect = useQuery(linesEffectQuery(costs));
  const { post, aside, correct, error: refused } = useLineActs(ids, onDone);
  const act = corrected ? correct : post;
  const toMatch = matchable(lines);
  const error = refused ?? effect.error;
  const isEffectKnown = costs.length === 0 || effect.data !== undefined;
  return (
    <div className="mb-2 flex flex-col gap-2 border-l-4 border-accent pl-3">
      <div className="flex flex-wrap items-center gap-2">
        <span className="font-semibold">{countWords(lines.length, "line", "lines")}</span>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!ready || act.isPending || !isEffectKnown}
          onClick={() => act.mutate()}
        >
          {corrected ? acceptWords(lines.length) : "Post"}
        </button>
        <Aside isAside={allAre("aside")} busy={aside.isPending} onAside={(reason) => aside.mutate(reason)} />
      </div>
      {corrected && <p className="text-sm">{correctedWords(lines)}</p>}
      {toMatch !== null && <MatchByHand key={toMatch.id} line={toMatch} targets={targets} />}
      {costs.length > 0 && <Effects effects={effect.data ?? []} act={corrected ? "accepting" : "posting"} />}
      {error !== null && <Failure error={error} />}
    </div>
  );
}
