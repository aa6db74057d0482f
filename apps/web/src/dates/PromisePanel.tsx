import { HOUSE_WORDS, type Promised } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { X } from "lucide-react";
import { Link } from "react-router";
import { driftQuery } from "../approve/queries.ts";
import { Causes, WorkingOut } from "../approve/compare/DriftPart.tsx";
import { askedIn, chanceTone, chanceWords } from "../chances/chanceWords.ts";
import { chancesQuery, chancesShareQuery } from "../chances/queries.ts";
import { call } from "../shared/session/api.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { Toned } from "../shared/dialogs/Toned.tsx";
import {
  dateWords,
  DEADLINE_TONES,
  driftTone,
  driftWords,
  isSettled,
  marginWords,
  standingWords,
} from "../shared/words/words.ts";
import { chainQuery } from "./queries.ts";

function Chain({ promised }: { promised: Promised }) {
  const query = useQuery(chainQuery(promised.project, promised.id));
  return (
    <section>
      <h3 className="border-b rule text-sm font-semibold">The chain that decides it</h3>
      <Loaded query={query}>
        {(chain) => (
          <ol className="max-h-72 overflow-auto text-sm" tabIndex={0} aria-label="The chain that decides it">
            {[...chain].reverse().map(({ id, name, start, finish, state, drift, people }) => (
              <li key={id} className="border-b rule py-0.5">
                <Link
                  className="link-quiet"
                  to={`/projects/${promised.project}/plan?at=${encodeURIComponent(id)}&about=why&lit=${encodeURIComponent(promised.id)}`}
                >
                  {name}
                </Link>{" "}
                <span className="muted">
                  {dateWords(start)} to {dateWords(finish)}
                  {state === "notStarted" ? "" : `, ${HOUSE_WORDS[state]}`}
                </span>{" "}
                {drift !== null && Math.abs(drift) >= 0.05 && (
                  <Toned tone={driftTone(drift)}>{driftWords(drift)}</Toned>
                )}
                {people.length > 0 && <span className="muted"> · {people.join(", ")}</span>}
              </li>
            ))}
            {chain.length === 0 && (
              <li className="muted py-1">Nothing decides it: it is not laid out by the network.</li>
            )}
          </ol>
        )}
      </Loaded>
    </section>
  );
}

/** What changed the margin since the period was last issued, cause by cause. */
function Changed({ promised }: { promised: Promised }) {
  const was = promised.was;
  const query = useQuery({
    ...driftQuery(promised.project, `period-${was?.number}`, "plan", promised.id),
    enabled: was !== null,
  });
  if (was === null)
    return (
      <p className="muted text-sm">
        No issued period has it yet; what changes its margin is told from the next one on.
      </p>
    );
  if (was.marginDays === null || promised.marginDays === null) return null;
  const moved = promised.marginDays - was.marginDays;
  return (
    <section>
      <h3 className="border-b rule text-sm font-semibold">What changed its margin since period {was.number}</h3>
      <p className="text-sm">
        {marginWords(was.marginDays)} → {marginWords(promised.marginDays)}
        {was.deadline !== promised.deadline &&
          `; the deadline itself went from ${dateWords(was.deadline)} to ${dateWords(promised.deadline)}`}
      </p>
      {Math.abs(moved) < 0.05 ? (
        <p className="muted text-sm">It has not changed.</p>
      ) : query.data === undefined && query.error === null ? (
        <WorkingOut of={[promised.project, `period-${was.number}`, "plan", promised.id]} />
      ) : (
        <Loaded query={query}>
          {(ledger) => (
            <Causes ledger={ledger} project={promised.project} from={`period-${was.number}`} to="plan" narrow />
          )}
        </Loaded>
      )}
    </section>
  );
}

function Consequence({ promised }: { promised: Promised }) {
  const client = useQueryClient();
  const write = useMutation({
    mutationFn: (body: { consequence: string; to: string }) =>
      call("PUT /api/projects/:project/promises/:activity", {
        params: { project: promised.project, activity: promised.id },
        body,
      }),
    onSuccess: () => void client.invalidateQueries(),
  });
  const put = async (part: Partial<{ consequence: string; to: string }>): Promise<string | null> => {
    try {
      await write.mutateAsync({ consequence: promised.consequence ?? "", to: promised.to ?? "", ...part });
      return null;
    } catch (error) {
      return error instanceof Error ? error.message : String(error);
    }
  };
  if (!promised.mayEdit)
    return (
      <p className="text-sm">
        {promised.consequence === null ? (
          <span className="muted">What follows if it is not kept has not been said.</span>
        ) : (
          <>
            If it is not kept: {promised.consequence}
            {promised.to !== null && ` (promised to ${promised.to})`}
          </>
        )}
      </p>
    );
  return (
    <div className="flex flex-col gap-1 text-sm">
      <label className="flex items-center gap-2">
        If it is not kept
        <CommitField
          label="What follows if it is not kept"
          width="w-72"
          placeholder="such as 2 000 a day, or the spring tide is missed"
          value={promised.consequence ?? ""}
          onCommit={(consequence) => put({ consequence })}
        />
      </label>
      {promised.consequence !== null && (
        <label className="flex items-center gap-2">
          Promised to
          <CommitField
            label="Whom it was promised to"
            width="w-48"
            value={promised.to ?? ""}
            onCommit={(to) => put({ to })}
          />
        </label>
      )}
    </div>
  );
}

const ASKED = askedIn(new URLSearchParams());

/** How likely it is kept, by playing its project through. */
function Likely({ promised }: { promised: Promised }) {
  const query = useQuery(chancesQuery(promised.project, ASKED));
  const { data: share } = useQuery(chancesShareQuery(promised.project, ASKED));
  const own = query.data?.deadlines.find(({ id }) => id === promised.id);
  return (
    <section>
      <h3 className="border-b rule text-sm font-semibold">How likely it is kept</h3>
      {query.error !== null ? (
        <Failure error={query.error} onAgain={() => void query.refetch()} />
      ) : query.data === undefined ? (
        <p className="muted flex items-center gap-2 text-sm" role="status">
          Playing the project through …{" "}
          <progress
            className="h-2 w-40 accent-(--color-accent)"
            max={1}
            value={share}
            aria-label="Played through so far"
          />
        </p>
      ) : own === undefined ? (
        <p className="muted text-sm">It is not laid out by the network, so nothing can be said.</p>
      ) : (
        <p className="text-sm">
          <Toned tone={chanceTone(own.chance)} marked>
            {chanceWords(own.chance)}
          </Toned>{" "}
          <span className="muted">of {query.data.runs} runs, with ranges and risks as they are.</span>{" "}
          <Link className="underline" to={`/projects/${promised.project}/chances`}>
            What moves it
          </Link>
        </p>
      )}
    </section>
  );
}

/**
 * A deadline: how it stands, what decides it, how likely it is kept, what changed its margin, what follows if it is
 * not.
 */
export function PromisePanel({ promised, onClose }: { promised: Promised; onClose: () => void }) {
  return (
    <aside
      aria-label={`About ${promised.name}`}
      className="flex w-[30rem] shrink-0 flex-col gap-3 overflow-auto border-l rule px-4 py-3"
    >
      <div className="flex items-start justify-between gap-2">
        <div>
          <h2 className="text-lg">{promised.name}</h2>
          <p className="muted text-sm">
            <Link className="link-quiet" to={`/projects/${promised.project}/dates`}>
              {promised.code} {promised.projectName}
            </Link>{" "}
            · {promised.manager}
          </p>
        </div>
        <button type="button" className="p-1 cursor-pointer" aria-label="Close" onClick={onClose}>
          <X size={16} aria-hidden="true" />
        </button>
      </div>
      <p>
        Promised for {dateWords(promised.deadline)}, finishes {dateWords(promised.finish)}:{" "}
        <Toned tone={DEADLINE_TONES[promised.state]} marked>
          {standingWords(promised.state, promised.marginDays)}
        </Toned>
      </p>
      <Consequence promised={promised} />
      <Chain promised={promised} />
      {!isSettled(promised.state) && <Likely promised={promised} />}
      <Changed promised={promised} />
      {promised.mayEdit && !isSettled(promised.state) && (
        <Link
          className="btn btn-sm self-start"
          to={`/projects/${promised.project}/slip/${encodeURIComponent(promised.id)}`}
        >
          Slip it …
        </Link>
      )}
    </aside>
  );
}
