import type { DraftAspect } from "@chronometra/contract";
import { ASPECT_WORDS, RATING_WORDS, RATINGS, type Aspect, type Rating } from "@chronometra/core";
import { useEffect, useState } from "react";
import { RATING_TONES } from "../../portfolio/SaysDialog.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import { momentWords } from "../../shared/words/words.ts";
import { isConflict, useSaid } from "./useSaid.ts";

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

interface WhoseProps {
  readonly said: DraftAspect;
  /** Whether somebody wrote the text, and not the app. */
  readonly isOwn: boolean;
  readonly isSaving: boolean;
  readonly onBegin: (() => void) | null;
}

/** Who wrote the text, and the way back to what the app begins with. */
const Whose = ({ said: { by, at }, isOwn, isSaving, onBegin }: WhoseProps) => (
  <p className="muted flex flex-wrap items-center gap-2 text-sm">
    {isOwn
      ? `Written by ${by ?? ""}${at === null ? "" : `, ${momentWords(at)}`}`
      : "Begun from the figures; it follows them until somebody writes here."}
    {isOwn && onBegin !== null && (
      <button type="button" className="btn btn-xs" onClick={onBegin}>
        Begin from the figures again
      </button>
    )}
    {isSaving && <span role="status">Saving …</span>}
  </p>
);

interface BothProps {
  readonly said: DraftAspect;
  readonly onMine: () => void;
  readonly onTheirs: () => void;
}

/** What somebody else wrote on the same side meanwhile, and which of both is to stand. */
const Both = ({ said: { by, rating, suggested, text, begun }, onMine, onTheirs }: BothProps) => (
  <div role="alert" className="my-2 border-l-4 border-error bg-base-200 px-3 py-2 text-sm">
    <p>
      {by ?? "Somebody"} wrote here meanwhile:{" "}
      <Toned tone={RATING_TONES[rating ?? suggested]} marked>
        {RATING_WORDS[rating ?? suggested]}
      </Toned>
    </p>
    <p className="whitespace-pre-line">{text ?? begun}</p>
    <p className="mt-1 flex gap-2">
      <button type="button" className="btn btn-xs" onClick={onTheirs}>
        Discard mine
      </button>
      <button type="button" className="btn btn-xs" onClick={onMine}>
        Save mine in its place
      </button>
    </p>
  </div>
);

interface Props {
  readonly of: string;
  readonly said: DraftAspect;
  readonly mayEdit: boolean;
  /** The number of the report before. */
  readonly lastNumber: number | null;
  /** Told whether something that was written here could not be stored. */
  readonly onUnsaved: (aspect: Aspect, isUnsaved: boolean) => void;
}

/** One side of a report: what the limits suggest, what is said instead, and what was said last. */
export function WriteAspect({ of, said, mayEdit, lastNumber, onUnsaved }: Props) {
  const { aspect, suggested, rules, begun, last } = said;
  const name = ASPECT_WORDS[aspect];
  const { shown, isSaving, fault, put, drop } = useSaid(of, said);
  const { rating } = shown;
  const [typed, setTyped] = useState<string | null>(null);
  const [typedReason, setTypedReason] = useState<string | null>(null);
  const isTyping = typed !== null || typedReason !== null;
  useEffect(() => onUnsaved(aspect, fault !== null || isTyping), [onUnsaved, aspect, fault, isTyping]);
  const text = typed ?? shown.text ?? begun;
  const differs = rating !== null && rating !== suggested;
  const rate = (chosen: Rating): void => put({ rating: chosen === suggested ? null : chosen });
  const keepText = (): void => {
    if (typed !== null) put({ text: typed === begun ? null : typed });
    setTyped(null);
  };
  const keepReason = (): void => {
    if (typedReason !== null) put({ reason: typedReason.trim() });
    setTypedReason(null);
  };
  return (
    <section aria-label={name} className="border-t rule py-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 className="w-24 text-lg">{name}</h2>
        <fieldset className="flex flex-wrap gap-3" disabled={!mayEdit}>
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
        <Reason reason={typedReason ?? shown.reason} readOnly={!mayEdit} onType={setTypedReason} onDone={keepReason} />
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
            onChange={(event) => setTyped(event.target.value)}
            onBlur={keepText}
          />
          <Whose
            said={said}
            isOwn={shown.text !== null}
            isSaving={isSaving}
            onBegin={mayEdit ? () => put({ text: null }) : null}
          />
          {fault !== null &&
            (isConflict(fault) ? (
              <Both said={said} onMine={() => put({})} onTheirs={drop} />
            ) : (
              <Failure error={fault} onAgain={() => put({})} />
            ))}
        </div>
        {last !== null && <Last last={last} number={lastNumber} />}
      </div>
    </section>
  );
}
