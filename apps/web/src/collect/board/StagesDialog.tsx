import { stageChanges, stagesFault, type Plan, type StageEdit } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { effectQuery } from "../../plan/queries.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { SaveOrCancel } from "../../shared/dialogs/SaveOrCancel.tsx";
import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";
import { countWords } from "../../shared/words/words.ts";
import type { TrackRow } from "./tracks.ts";

interface Line {
  readonly key: number;
  readonly was: string | null;
  readonly name: string;
  readonly credit: string;
}

interface Props {
  readonly project: string;
  readonly revision: number;
  readonly plan: Plan;
  /** Stages as they are, which these activities share; none where they are new. */
  readonly stages: readonly { readonly name: string; readonly credit: number }[];
  readonly rows: readonly TrackRow[];
  /** What does not earn by stages yet, and may. */
  readonly others: readonly TrackRow[];
  readonly onStages: (changes: ReturnType<typeof stageChanges>, words: string) => void;
  readonly onClose: () => void;
}

const BEGUN = [
  ["Begun", "10"],
  ["Done", "80"],
  ["Checked", "100"],
] as const;

const linesOf = (stages: Props["stages"]): Line[] =>
  stages.length === 0
    ? BEGUN.map(([name, credit], key) => ({ key, was: null, name, credit }))
    : stages.map(({ name, credit }, key) => ({ key, was: name, name, credit: String(credit) }));

const editsOf = (lines: readonly Line[]): StageEdit[] =>
  lines.map(({ was, name, credit }) => ({ was, name, credit: credit.trim() === "" ? Number.NaN : Number(credit) }));

/** The stages themselves: names and the percent that each earns, in the order of that. */
function StageLines({ lines, onLines }: { lines: readonly Line[]; onLines: (lines: readonly Line[]) => void }) {
  const put = (key: number, part: Partial<Line>): void =>
    onLines(lines.map((line) => (line.key === key ? { ...line, ...part } : line)));
  const key = Math.max(-1, ...lines.map((line) => line.key)) + 1;
  return (
    <div>
      {lines.map((line, i) => (
        <div key={line.key} className="flex items-center gap-2 border-b rule py-0.5">
          <input
            className="input input-sm min-w-0 flex-1"
            aria-label={`Name of stage ${i + 1}`}
            value={line.name}
            onChange={({ target }) => put(line.key, { name: target.value })}
          />
          <input
            className="input input-sm w-16 text-right"
            aria-label={`Percent that stage ${i + 1} earns`}
            inputMode="decimal"
            value={line.credit}
            onChange={({ target }) => put(line.key, { credit: target.value })}
          />
          %
          <RemoveButton
            what={`stage ${line.name}`}
            onRemove={() => onLines(lines.filter((each) => each.key !== line.key))}
          />
        </div>
      ))}
      <button
        type="button"
        className="btn btn-ghost btn-sm mt-1 px-0"
        onClick={() => onLines([...lines, { key, was: null, name: "", credit: "" }])}
      >
        Add a stage
      </button>
    </div>
  );
}

/** Which more activities are to earn by the stages. */
function OthersPart({
  others,
  chosen,
  onChosen,
}: {
  others: readonly TrackRow[];
  chosen: ReadonlySet<string>;
  onChosen: (ids: ReadonlySet<string>) => void;
}) {
  const turn = (ids: readonly string[], is: boolean): void =>
    onChosen(new Set(is ? [...chosen, ...ids] : [...chosen].filter((id) => !ids.includes(id))));
  if (others.length === 0) return null;
  return (
    <div className="max-h-44 overflow-auto text-sm" tabIndex={0} role="group" aria-label="More activities">
      <label className="flex min-h-[26px] items-center gap-2 border-b rule font-semibold">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={others.every(({ activity }) => chosen.has(activity.id))}
          onChange={({ target }) =>
            turn(
              others.map(({ activity }) => activity.id),
              target.checked,
            )
          }
        />
        these {others.length} too
      </label>
      {others.map(({ activity, path }) => (
        <label key={activity.id} className="flex min-h-[26px] items-center gap-2 border-b rule">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={chosen.has(activity.id)}
            onChange={({ target }) => turn([activity.id], target.checked)}
          />
          <span className="min-w-0 flex-1 truncate">
            {activity.name} <span className="muted">{path}</span>
          </span>
          {activity.credit !== undefined && <span className="undecided">has another rule of credit now</span>}
        </label>
      ))}
    </div>
  );
}

/** Stages added, renamed and given other percents for all that earns by them, once the effect is seen. */
export function StagesDialog({ project, revision, plan, stages, rows, others, onStages, onClose }: Props) {
  const [lines, setLines] = useState<readonly Line[]>(() => linesOf(stages));
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const edits = useMemo(() => editsOf(lines), [lines]);
  const count = rows.length + chosen.size;
  const fault = stagesFault(edits) ?? (count === 0 ? "Select the activities that earn by them." : null);
  const changes = useMemo(
    () => (fault === null ? stageChanges(plan, [...rows.map(({ activity }) => activity.id), ...chosen], edits) : []),
    [plan, rows, chosen, edits, fault],
  );
  const effect = useQuery(effectQuery(project, revision, changes));
  return (
    <Dialog title={stages.length === 0 ? "Stages of work" : "Stages"} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const earning = countWords(count, "activity earns", "activities earn");
          if (changes.length > 0)
            onStages(changes, `${earning} by ${stages.length === 0 ? "these" : "the changed"} stages.`);
          onClose();
        }}
      >
        <StageLines lines={lines} onLines={setLines} />
        <OthersPart others={others} chosen={chosen} onChosen={setChosen} />
        <p className="text-sm">
          {countWords(count, "activity earns", "activities earn")} by them; {changes.length} of those{" "}
          {changes.length === 1 ? "changes" : "change"}.
        </p>
        {effect.error !== null && <Failure error={effect.error} />}
        {changes.length > 0 && effect.data !== undefined && <EffectView effect={effect.data} />}
        <SaveOrCancel fault={fault} isReady={fault === null && effect.error === null} onClose={onClose} />
      </form>
    </Dialog>
  );
}
