import { GATE_ACT_WORDS, type Gate, type ProjectGates } from "@chronometra/contract";
import { dateWords, momentWords } from "../shared/words/words.ts";

interface Props {
  readonly view: ProjectGates;
  /** The stage that is looked at. */
  readonly chosen: string;
  readonly onChoose: (stage: string) => void;
}

/** Where a gate stands, in words. */
export function standingWords({ standing, passed, dueOn }: Gate, isAsked: boolean): string {
  if (passed !== null) return `${GATE_ACT_WORDS[passed.act]}, ${momentWords(passed.at)}`;
  if (standing === "passed") return "passed";
  if (isAsked) return "waits for a decision";
  if (dueOn === null) return standing === "here" ? "comes next" : "ahead";
  return dueOn.overdue ? `was due ${dateWords(dueOn.date)}` : `due ${dateWords(dueOn.date)}`;
}

const POSTS = "M1 0 h5 v5 h-5 z M1 17 h5 v5 h-5 z";
const OPEN = "M6 2.5 H18 M6 19.5 H18";
const SHUT = "M4 4 L10 11 L4 18";

/** The leaves of a gate as they are seen from above: swung aside where it is passed, else shut against each other. */
const Leaves = ({ standing }: Pick<Gate, "standing">) => (
  <svg viewBox="0 0 20 22" className="h-[22px] w-5 shrink-0" aria-hidden="true">
    <path d={POSTS} fill="currentColor" />
    <path
      d={standing === "passed" ? OPEN : SHUT}
      fill="none"
      stroke="currentColor"
      strokeWidth={standing === "here" ? 2.5 : 1.5}
    />
  </svg>
);

const REACH: Readonly<Record<Gate["standing"], string>> = {
  passed: "border-t-2",
  here: "border-t-4 border-primary",
  ahead: "border-t border-dashed",
};

/** The stages of a project one after another, each a reach that ends at its gate. */
export const StageTrack = ({ view, chosen, onChoose }: Props) => (
  <ol className="flex flex-wrap gap-y-4" aria-label="Stages">
    {view.gates.map((gate) => {
      const { stage, name, standing } = gate;
      return (
        <li key={stage} className="min-w-40 flex-1" {...(standing === "here" ? { "aria-current": "step" } : {})}>
          <button
            type="button"
            className={`w-full cursor-pointer rounded px-1 text-left ${chosen === stage ? "bg-base-200" : ""}`}
            aria-pressed={chosen === stage}
            onClick={() => onChoose(stage)}
          >
            <span className={`block truncate ${standing === "here" ? "font-semibold" : ""}`} title={name}>
              {name}
              {standing === "here" && <span className="muted font-normal"> · now</span>}
            </span>
            <span className="flex items-center">
              <span className={`flex-1 ${REACH[standing]}`} />
              <Leaves standing={standing} />
            </span>
            <span className="block text-right text-sm">
              <span className="block truncate" title={gate.gate}>
                {gate.gate}
              </span>
              <span className={gate.dueOn?.overdue === true ? "adverse" : "muted"}>
                {standingWords(gate, view.asked?.stage === stage)}
              </span>
            </span>
          </button>
        </li>
      );
    })}
  </ol>
);
