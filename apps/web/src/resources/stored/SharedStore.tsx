import type { OtherProject, SharedEffect, SharedResult, SharedRows, WriteRegister } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { call, CallFailed } from "../../shared/session/api.ts";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import { countWords, dateWords, driftTone, movedWords } from "../../shared/words/words.ts";
import { takeBackRow } from "./registerCalls.ts";
import { UnsavedGuard } from "../../shared/dialogs/UnsavedGuard.tsx";
import { undoToast } from "../../shared/dialogs/undoToast.ts";

/** How rows are stored, and where besides the projects that are selected. */
export interface Way {
  /** What is stored, as text: what moves is shown for that alone. */
  readonly asked: string;
  readonly effect: (projects: string[]) => Promise<SharedEffect>;
  readonly store: (projects: string[]) => Promise<SharedResult>;
  /** Where it is stored with so many projects selected. */
  readonly into: (projects: number) => string;
  /** What is said afterwards, of what it was and how many projects changed. */
  readonly said: (what: string, changed: number) => string;
  /** Takes back what was stored besides the projects. */
  readonly takeBack?: () => Promise<unknown>;
}

/** Into a project, and the others that are selected. */
export const planWay = (project: string, rows: SharedRows["rows"]): Way => ({
  asked: JSON.stringify(rows),
  effect: (others) => call("POST /api/shared/effect", { body: { projects: [project, ...others], rows } }),
  store: (others) => call("POST /api/shared", { body: { projects: [project, ...others], rows } }),
  into: (others) => countWords(others + 1, "project", "projects"),
  said: (what, changed) =>
    changed === 0
      ? `${what} says this already.`
      : `${what} is stored in ${countWords(changed, "project", "projects")}.`,
});

/** Into the register, and the projects that are selected. */
export const registerWay = (change: WriteRegister["change"], seen: object | null): Way => ({
  asked: JSON.stringify(change),
  effect: (projects) => call("POST /api/register/effect", { body: { change, seen, projects } }),
  store: (projects) => call("POST /api/register", { body: { change, seen, projects } }),
  into: (projects) =>
    projects === 0 ? "the register" : `the register and ${countWords(projects, "project", "projects")}`,
  said: (what, changed) =>
    `${what} is saved in the register${changed === 0 ? "" : ` and stored in ${countWords(changed, "project", "projects")}`}.`,
  takeBack: () => takeBackRow(change, seen),
});

interface Props {
  /** Other projects that have the same row. */
  readonly others: readonly OtherProject[];
  readonly way: Way;
  /** What is stored, for the words afterwards. */
  readonly what: string;
  readonly onDone: () => void;
  readonly onLeave: () => void;
}

/** What storing would move, project by project; those in which nothing does in one line. */
export function Moved({ effects }: { effects: SharedEffect }) {
  const still = effects.filter(
    ({ effect }) => effect.finish === null && effect.activities.length === 0 && effect.milestones.length === 0,
  );
  const section = useRef<HTMLElement>(null);
  useEffect(() => {
    // Newer browsers give a promise, which is nothing to clean up by.
    section.current?.scrollIntoView({ block: "nearest" });
  }, [effects]);
  return (
    <section ref={section} aria-label="What would move" className="mt-2 border-t rule pt-2">
      {effects
        .filter((each) => !still.includes(each))
        .map(({ project, code, name, effect }) => (
          <details key={project} className="border-b rule py-0.5">
            <summary className="cursor-pointer">
              {code} {name}:{" "}
              {effect.finish === null ? (
                "the finish stays"
              ) : (
                <>
                  finish {dateWords(effect.finish.to)},{" "}
                  <Toned tone={driftTone(effect.finish.days)}>{movedWords(effect.finish.days)}</Toned>
                </>
              )}
              ; {countWords(effect.activities.length, "activity", "activities")} and{" "}
              {countWords(effect.milestones.length, "milestone", "milestones")} move
            </summary>
            <div className="py-1 pl-4">
              <EffectView effect={effect} />
            </div>
          </details>
        ))}
      {still.length > 0 && <p className="muted">Nothing moves in {still.map(({ code }) => code).join(", ")}.</p>}
    </section>
  );
}

/**
 * Stores a calendar or person where it is kept and in the other projects that have them, after showing what that would
 * move in each.
 */
export function SharedStore({ others, way, what, onDone, onLeave }: Props) {
  const client = useQueryClient();
  const [left, setLeft] = useState<readonly string[]>(
    others.filter(({ same, mayEdit }) => !same || !mayEdit).map(({ id }) => id),
  );
  const closed = others.filter(({ mayEdit }) => !mayEdit).map(({ id }) => id);
  const projects = others.filter(({ id }) => !left.includes(id)).map(({ id }) => id);
  const asked = `${way.asked} ${projects.join(" ")}`;
  const preview = useMutation({
    mutationFn: async () => ({ asked, effects: await way.effect(projects) }),
  });
  const again = (): void => void client.invalidateQueries();
  const store = useMutation({
    mutationFn: () => way.store(projects),
    onSuccess: (stored) => {
      undoToast(client, {
        revisions: stored,
        words: way.said(what, stored.length),
        also: way.takeBack,
      });
      again();
      onDone();
    },
  });
  const shown = preview.data?.asked === asked ? preview.data.effects : null;
  return (
    <div className="mt-3 border-t border-base-content pt-2">
      <UnsavedGuard what={what} />
      {others.length > 0 && (
        <fieldset className="mb-2 flex flex-wrap gap-x-4 gap-y-1">
          <legend className="muted float-left mr-2">Also in</legend>
          {others.length > 2 && (
            <>
              <button type="button" className="btn btn-ghost btn-xs min-h-[24px]" onClick={() => setLeft(closed)}>
                All
              </button>
              <button
                type="button"
                className="btn btn-ghost btn-xs min-h-[24px]"
                onClick={() => setLeft(others.map(({ id }) => id))}
              >
                None
              </button>
            </>
          )}
          {others.map(({ id, code, name, same, mayEdit }) => (
            <label
              key={id}
              className="flex items-center gap-1.5"
              title={`${name}${same ? "" : ": it says something else there now"}${mayEdit ? "" : ": you may not change that project"}`}
            >
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                disabled={!mayEdit}
                checked={!left.includes(id)}
                onChange={(event) => setLeft(event.target.checked ? left.filter((each) => each !== id) : [...left, id])}
              />
              {code}
              {!same && <span className="undecided">differs</span>}
            </label>
          ))}
        </fieldset>
      )}
      <div className="flex items-center gap-2">
        <button type="button" className="btn btn-sm" disabled={preview.isPending} onClick={() => preview.mutate()}>
          {preview.isPending ? "Calculating …" : "Show what moves"}
        </button>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={store.isPending}
          onClick={() => store.mutate()}
        >
          {store.isPending ? "Storing …" : `Store in ${way.into(projects.length)}`}
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onLeave}>
          Leave as it was
        </button>
      </div>
      {(preview.error ?? store.error) !== null && <Failure error={preview.error ?? store.error} />}
      {store.error instanceof CallFailed && store.error.status === 409 && (
        <button type="button" className="btn btn-sm" onClick={again}>
          Show it as it is now
        </button>
      )}
      {shown !== null && <Moved effects={shown} />}
    </div>
  );
}
