import type { Endings as Answers, PeopleWeek, WeeksEffect as WeeksEffectView } from "@chronometra/contract";
import { keepPreviousData, useMutation, useQuery, useQueryClient, type UseQueryResult } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { countWords } from "../../shared/words/words.ts";
import { AssumedStarts, Endings } from "../Endings.tsx";
import { refetchDecided, weeksEffectQuery } from "../queries.ts";
import { type Line } from "./peopleColumns.tsx";

/** What approving the chosen weeks would accept and move, and what it must know first. */
function WeeksEffect({
  effect,
  answers,
  onAnswer,
}: {
  effect: UseQueryResult<WeeksEffectView>;
  answers: Answers;
  onAnswer: (answers: Answers) => void;
}) {
  return (
    <section aria-label="Effect preview" aria-live="polite" className="w-full">
      {effect.data === undefined ? (
        effect.error === null && (
          <p className="muted text-sm" role="status">
            Calculating …
          </p>
        )
      ) : (
        <>
          <h2 className="text-base">
            {effect.data.reports.length === 0
              ? "Nothing waits in them; approving closes the weeks"
              : `Approving accepts ${countWords(effect.data.reports.length, "report", "reports")} and would`}
          </h2>
          <Endings effects={effect.data.effects} answers={answers} onAnswer={onAnswer} />
          <div className="grid gap-x-8 md:grid-cols-2" aria-busy={effect.isFetching}>
            {effect.data.effects.map((of) => (
              <section key={of.project}>
                <h3 className="text-sm">{of.projectName}</h3>
                <AssumedStarts of={of} />
                <EffectView effect={of.effect} />
              </section>
            ))}
          </div>
        </>
      )}
    </section>
  );
}

/** Reminding, approving and returning: what is typed for it, what it would move, and how it went. */
function useWeekActs(week: PeopleWeek, chosen: readonly Line[], onDone: () => void) {
  const client = useQueryClient();
  const [word, setWord] = useState("");
  const [reminder, setReminder] = useState("Please send your time of this week; the period is to be issued soon.");
  const params = { date: week.from };
  const people = chosen.map(({ id }) => id);
  const after = (words: string): void => {
    toast(words);
    setWord("");
    onDone();
    refetchDecided(client);
  };
  const remind = useMutation({
    mutationFn: () => call("POST /api/time/:date/reminders", { params, body: { people, words: reminder } }),
    onSuccess: ({ sent, failed }) =>
      after(
        `${countWords(sent, "reminder", "reminders")} sent.${failed.length === 0 ? "" : ` Not reached: ${failed.map(({ to, why }) => `${to} (${why})`).join(", ")}.`}`,
      ),
  });
  const [endings, setEndings] = useState<Answers>({});
  const effect = useQuery({
    ...weeksEffectQuery(
      week.from,
      chosen.filter(({ sheet }) => sheet?.state === "sent").map(({ id }) => id),
      endings,
    ),
    placeholderData: keepPreviousData,
  });
  const decide = useMutation({
    mutationFn: (decision: "approve" | "return") =>
      call("POST /api/time/:date/decision", {
        params,
        body: { people, decision, word, seen: effect.data?.reports ?? [], endings },
      }),
    onError: () => void effect.refetch(),
    onSuccess: ({ approved, open }, decision) =>
      after(
        decision === "return"
          ? `${countWords(people.length, "week", "weeks")} returned.`
          : `${countWords(approved.length, "week", "weeks")} approved${open.length === 0 ? "." : `; of ${open.join(", ")} other projects still decide reports.`}`,
      ),
  });
  return { word, setWord, reminder, setReminder, endings, setEndings, effect, remind, decide };
}

/** Why weeks cannot be approved yet; `null` where they can. */
function notYetApproved(someNotSent: boolean, effect: WeeksEffectView | undefined): string | null {
  const isOpen = effect?.effects.some(({ asked }) => asked.some(({ answer }) => answer === null)) === true;
  if (isOpen) return "Say first what each 100% ends";
  return someNotSent ? "Only weeks that were sent can be approved" : null;
}

/** What is done with the people chosen: remind them, approve their weeks, or return them. */
export function PeopleActions({
  week,
  chosen,
  onDone,
}: {
  week: PeopleWeek;
  chosen: readonly Line[];
  onDone: () => void;
}) {
  const { word, setWord, reminder, setReminder, endings, setEndings, effect, remind, decide } = useWeekActs(
    week,
    chosen,
    onDone,
  );
  const sent = chosen.filter(({ sheet }) => sheet?.state === "sent").length;
  const inTheWay = notYetApproved(sent < chosen.length, effect.data);
  const error = remind.error ?? decide.error ?? effect.error;
  return (
    <div className="mb-2 flex flex-wrap items-end gap-x-6 gap-y-2 border-l-4 border-accent pl-3">
      <span className="font-semibold">{countWords(chosen.length, "person", "people")}</span>
      <span className="flex items-end gap-2">
        <label className="flex flex-col text-sm">
          Reminder
          <input
            className="input input-sm w-96"
            value={reminder}
            onChange={(event) => setReminder(event.target.value)}
          />
        </label>
        <button
          type="button"
          className="btn btn-sm"
          disabled={remind.isPending || reminder.trim() === ""}
          onClick={() => remind.mutate()}
        >
          Remind {chosen.length === 1 ? "" : `all ${chosen.length}`}
        </button>
      </span>
      <span className="flex items-end gap-2">
        <label className="flex flex-col text-sm">
          A word
          <input
            className="input input-sm w-48"
            value={word}
            placeholder="needed to return"
            onChange={(event) => setWord(event.target.value)}
          />
        </label>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={decide.isPending || inTheWay !== null || effect.data === undefined || effect.isFetching}
          title={inTheWay ?? undefined}
          onClick={() => decide.mutate("approve")}
        >
          Approve {countWords(sent, "week", "weeks")}
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={decide.isPending || sent < chosen.length || word.trim() === ""}
          onClick={() => decide.mutate("return")}
        >
          Return
        </button>
      </span>
      {error !== null && <Failure error={error} />}
      {sent > 0 && (
        <WeeksEffect effect={effect} answers={endings} onAnswer={(answers) => setEndings({ ...endings, ...answers })} />
      )}
    </div>
  );
}
