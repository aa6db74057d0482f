import {
  MATTER_KIND_WORDS,
  MATTER_KINDS,
  type MatterKind,
  type MatterSettings,
  type NewMatter,
} from "@chronometra/contract";
import { useState } from "react";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../shared/dialogs/SaveOrCancel.tsx";
import { NameChoice } from "../shared/fields/NameChoice.tsx";
import { chanceTyped } from "./risks/chanceTyped.ts";
import type { MatterKeeper } from "./queries.ts";
import { WhoWhen } from "./WhoWhen.tsx";

interface Place {
  readonly id: string;
  readonly name: string;
}

interface Props {
  readonly kind: MatterKind | null;
  /** The project that it is of; `null` where that is still to be said. */
  readonly project: string | null;
  /** Where it may be put, of several: projects, groups and the house, by `project:`, `group:` and `house:`. */
  readonly places: readonly Place[];
  /** What it is tied to from the beginning. */
  readonly ties?: NewMatter["ties"];
  readonly settings: MatterSettings;
  readonly keeper: MatterKeeper;
  readonly onAdded: (id: string) => void;
  readonly onClose: () => void;
}

interface Draft {
  readonly kind: MatterKind;
  readonly place: string | null;
  readonly title: string;
  readonly text: string;
  readonly severity: string;
  readonly owner: string | null;
  readonly due: string;
  readonly chance: string;
}

const orNull = (text: string): string | null => (text === "" ? null : text);

/** The project or group of a place; neither of the house. */
function placeIn(place: string | null): Pick<NewMatter, "project" | "group"> {
  const [of, id = ""] = (place ?? "").split(/:(.*)/s);
  return { project: of === "project" ? id : null, group: of === "group" ? id : null };
}

/** What was typed as a new matter, or what is wrong with it. */
export function readNew(draft: Draft, project: string | null, ties: NewMatter["ties"] = []): NewMatter | string {
  const { kind, place, title, text, severity, owner, due, chance } = draft;
  if (title.trim() === "") return "Write what it is.";
  if (project === null && place === null) return "Select where it belongs.";
  const share = kind === "risk" ? chanceTyped(chance) : null;
  if (kind === "risk" && share === null) return "Write the probability as a percent, as 30.";
  return {
    kind,
    ...(project === null ? placeIn(place) : { project, group: null }),
    title: title.trim(),
    text: text.trim(),
    severity: orNull(severity),
    owner,
    due: orNull(due),
    chance: share,
    ties,
  };
}

/** Puts something into a register. */
export function NewMatterForm({ kind, project, places, ties, settings, keeper, onAdded, onClose }: Props) {
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [draft, setDraft] = useState<Draft>({
    ...{ kind: kind ?? "issue", place: null, title: "", text: "", severity: "", owner: null, due: "", chance: "" },
  });
  const put = (part: Partial<Draft>): void => setDraft((was) => ({ ...was, ...part }));
  const add = async (): Promise<void> => {
    const read = readNew(draft, project, ties);
    if (typeof read === "string") return setFault(read);
    setBusy(true);
    const answer = await keeper.add(read);
    setBusy(false);
    if ("fault" in answer) return setFault(answer.fault);
    onAdded(answer.id);
  };
  return (
    <Dialog title={`New ${MATTER_KIND_WORDS[draft.kind][0]}`} onClose={onClose}>
      <form
        className="flex flex-col gap-3 text-sm"
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        {kind === null && (
          <label className="flex flex-col">
            Register
            <select
              className="select select-sm"
              value={draft.kind}
              onChange={(event) => put({ kind: event.target.value as MatterKind })}
            >
              {MATTER_KINDS.map((each) => (
                <option key={each} value={each}>
                  {MATTER_KIND_WORDS[each][1]}
                </option>
              ))}
            </select>
          </label>
        )}
        {project === null && (
          <div className="flex flex-col">
            Where it belongs
            <NameChoice label="Project or group" things={places} width="w-full" onChoose={(place) => put({ place })} />
          </div>
        )}
        <label className="flex flex-col">
          {draft.kind === "risk" ? "What may happen" : "What it is"}
          <input
            className="input input-sm w-full"
            maxLength={200}
            value={draft.title}
            onChange={(event) => put({ title: event.target.value })}
          />
        </label>
        <label className="flex flex-col">
          More about it
          <textarea
            className="textarea w-full leading-snug"
            rows={3}
            maxLength={8000}
            value={draft.text}
            onChange={(event) => put({ text: event.target.value })}
          />
        </label>
        <div className="flex flex-wrap items-end gap-3">
          {draft.kind === "risk" && (
            <label className="flex flex-col">
              Probability, %
              <input
                className="input input-sm w-20 text-right"
                inputMode="decimal"
                value={draft.chance}
                onChange={(event) => put({ chance: event.target.value })}
              />
            </label>
          )}
          <WhoWhen
            settings={settings}
            severity={draft.severity}
            onSeverity={(severity) => put({ severity })}
            onOwner={(owner) => put({ owner })}
            due={draft.due}
            onDue={(due) => put({ due })}
          />
        </div>
        <SaveOrCancel fault={fault} isReady={!busy} onClose={onClose} />
      </form>
    </Dialog>
  );
}
