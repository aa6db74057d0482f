import type { BodyOf, DraftAspect } from "@chronometra/contract";
import { ASPECT_WORDS, RATING_WORDS, RATINGS, type Rating } from "@chronometra/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { RATING_TONES } from "../portfolio/SaysDialog.tsx";
import { call } from "../shared/session/api.ts";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { momentWords } from "../shared/words/words.ts";
import { reportDraftQuery } from "./queries.ts";

type Written = Omit<BodyOf<"PUT /api/status-reports/:of/said/:aspect">, "version">;

/** Stores what is said on one side as soon as it is written; what could not be stored stays in the fields. */
function useWrite(of: string, said: DraftAspect, since: number) {
  const client = useQueryClient();
  const { queryKey } = reportDraftQuery(of);
  return useMutation({
    mutationFn: async (written: Written) => {
      const params = { of, aspect: said.aspect };
      await call("PUT /api/status-reports/:of/said/:aspect", { params, body: { ...written, version: said.version } });
    },
    onSuccess: (_done, written) => {
      client.setQueryData(queryKey, (draft) =>
        draft === undefined
          ? draft
          : {
              ...draft,
              aspects: draft.aspects.map((each) =>
                each.aspect === said.aspect ? { ...each, ...written, version: since + 1 } : each,
              ),
            },
      );
      void client.invalidateQueries({ queryKey: ["statusReport", of] });
    },
  });
}

interface ReasonProps {
  readonly reason: string;
  readonly readOnly: boolean;
  readonly onType: (typed: string) => void;
  readonly onDone: () => void;
}

/** Why a rating differs from what the limits suggest. */
const Reason = ({ reason, readOnly, onType, onDone }: ReasonProps) => (
  <label className="mt-1 block text-sm">
    Why it differs
    <input
      className="input input-sm ml-2 w-96 max-w-full"
      maxLength={500}
      readOnly={readOnly}
      value={reason}
      aria-invalid={reason.trim() === ""}
      onChange={(event) => onType(event.target.value)}
      onBlur={onDone}
    />
    {reason.trim() === "" && <span className="undecided ml-2">needed before the report is issued</span>}
  </label>
);

/** What the report before said. */
const Last = ({ last, number }: { last: NonNullable<DraftAspect["last"]>; number: number | null }) => (
  <blockquote className="border-l-2 rule pl-3 text-sm">
    <p className="muted">
      Period {number}:{" "}
      <Toned tone={RATING_TONES[last.rating]} marked>
        {RATING_WORDS[last.rating]}
      </Toned>
    </p>
    <p className="whitespace-pre-line">{last.text}</p>
  </blockquote>
);

interface Props {
  readonly of: string;
  readonly said: DraftAspect;
  readonly mayEdit: boolean;
  /** The number of the report before. */
  readonly lastNumber: number | null;
}

/** One side of a report: what the limits suggest, what is said instead, and what was said last. */
export function WriteAspect({ of, said, mayEdit, lastNumber }: Props) {
  const { aspect, suggested, rules, rating, begun, last, by, at } = said;
  const name = ASPECT_WORDS[aspect];
  const write = useWrite(of, said, said.version);
  const [text, setText] = useState(said.text ?? begun);
  const [reason, setReason] = useState(said.reason);
  const [isTouched, setTouched] = useState(false);
  useEffect(() => {
    if (isTouched) return;
    setText(said.text ?? begun);
    setReason(said.reason);
  }, [said.text, said.reason, begun, isTouched]);
  const put = (written: Partial<Written>): void => {
    const now = { rating, reason: said.reason, text: said.text, ...written };
    if (now.rating === rating && now.reason === said.reason && now.text === said.text) return setTouched(false);
    write.mutate(now, { onSuccess: () => setTouched(false) });
  };
  const differs = rating !== null && rating !== suggested;
  const rate = (chosen: Rating): void => put({ rating: chosen === suggested ? null : chosen });
  return (
    <section aria-label={name} className="border-t rule py-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 className="w-24 text-lg">{name}</h2>
        <fieldset className="flex flex-wrap gap-3" disabled={!mayEdit || write.isPending}>
          <legend className="sr-only">{`Rating of ${name}`}</legend>
          {RATINGS.map((each) => (
            <label key={each} className={`inline-flex min-h-6 items-center gap-1.5 ${RATING_TONES[each]}`}>
              <input
                type="radio"
                name={`${of}-${aspect}`}
                className="radio radio-xs"
                checked={(rating ?? suggested) === each}
                onChange={() => rate(each)}
              />
              {RATING_WORDS[each]}
            </label>
          ))}
        </fieldset>
        <p className="muted text-sm">
          {differs ? `The limits suggest "${RATING_WORDS[suggested]}": ` : "By the limits: "}
          {rules.join("; ")}
        </p>
      </div>
      {differs && (
        <Reason
          reason={reason}
          readOnly={!mayEdit}
          onType={(typed) => {
            setTouched(true);
            setReason(typed);
          }}
          onDone={() => put({ reason: reason.trim() })}
        />
      )}
      <div className="mt-1 grid gap-4 md:grid-cols-2">
        <div>
          <textarea
            className="textarea w-full"
            rows={4}
            maxLength={8000}
            aria-label={`What is said of ${name.toLowerCase()}`}
            readOnly={!mayEdit}
            value={text}
            onChange={(event) => {
              setTouched(true);
              setText(event.target.value);
            }}
            onBlur={() => isTouched && put({ text: text === begun ? null : text })}
          />
          <p className="muted flex flex-wrap items-center gap-2 text-sm">
            {said.text === null
              ? "Begun from the figures; it follows them until somebody writes here."
              : `Written by ${by ?? ""}${at === null ? "" : `, ${momentWords(at)}`}`}
            {said.text !== null && mayEdit && (
              <button
                type="button"
                className="btn btn-xs"
                onClick={() => {
                  setTouched(false);
                  put({ text: null });
                }}
              >
                Begin from the figures again
              </button>
            )}
            {write.isPending && <span role="status">Saving …</span>}
          </p>
          {write.error !== null && <Failure error={write.error} />}
        </div>
        {last !== null && <Last last={last} number={lastNumber} />}
      </div>
    </section>
  );
}
