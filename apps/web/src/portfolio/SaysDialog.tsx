import type { ProjectLine } from "@chronometra/contract";
import { RATING_WORDS, RATINGS } from "@chronometra/core";
import { useState } from "react";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { momentWords, type Tone } from "../shared/words/words.ts";
import { usePortfolioWrite } from "./usePortfolioWrite.ts";

export const RATING_TONES: Record<(typeof RATINGS)[number], Tone> = {
  well: "favourable",
  care: "undecided",
  trouble: "adverse",
};

/** What a manager says of a project, whatever the figures say. */
export function SaysDialog({
  line,
  onClose,
}: {
  line: Pick<ProjectLine, "id" | "name" | "says">;
  onClose: () => void;
}) {
  const [rating, setRating] = useState(line.says?.rating ?? "well");
  const [note, setNote] = useState(line.says?.note ?? "");
  const write = usePortfolioWrite("PUT /api/projects/:project/standing", onClose);
  const params = { project: line.id };
  return (
    <Dialog title={`What you say of ${line.name}`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          write.mutate({ params, body: { says: { rating, note } } });
        }}
      >
        <fieldset className="flex gap-4">
          <legend className="sr-only">Rating</legend>
          {RATINGS.map((each) => (
            <label key={each} className={`inline-flex items-center gap-1.5 ${RATING_TONES[each]}`}>
              <input
                type="radio"
                name="rating"
                className="radio radio-xs"
                checked={rating === each}
                onChange={() => setRating(each)}
              />
              {RATING_WORDS[each]}
            </label>
          ))}
        </fieldset>
        <label className="mt-3 block text-sm">
          Note
          <textarea
            className="textarea mt-0.5 w-full"
            rows={4}
            maxLength={1000}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        </label>
        {line.says !== null && (
          <p className="muted mt-1 text-sm">
            {line.says.by}, {momentWords(line.says.at)}
          </p>
        )}
        <div className="mt-3 flex gap-2">
          <button className="btn btn-primary btn-sm" disabled={write.isPending}>
            Save
          </button>
          {line.says !== null && (
            <button
              type="button"
              className="btn btn-sm"
              disabled={write.isPending}
              onClick={() => write.mutate({ params, body: { says: null } })}
            >
              Say nothing
            </button>
          )}
        </div>
      </form>
    </Dialog>
  );
}
