import {
  GATE_DECISIONS,
  type DecideGate as Decided,
  type Gate,
  type GateDecision,
  type GateEvent,
} from "@chronometra/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { DateField } from "../shared/fields/DateField.tsx";
import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import type { GateKeeper } from "./queries.ts";
import { WordField } from "./WordField.tsx";

type Action = Decided["actions"][number];
const NO_ACTION: Action = { what: "", owner: "", due: null };

const DECISION_WORDS: Readonly<Record<GateDecision, readonly [name: string, means: string]>> = {
  passed: ["Pass", "The project goes on into its next stage."],
  conditional: ["Pass with conditions", "It goes on, and what is listed here is to be done."],
  sentBack: ["Send back", "It stays in this stage; the gate may be asked for again."],
  stopped: ["Stop", "The project is put on hold. Closing it is another step."],
};

/** What is to be done after a pass with conditions, a line each. */
function Actions({ actions, onChange }: { actions: readonly Action[]; onChange: (actions: Action[]) => void }) {
  const set = (at: number, part: Partial<Action>): void =>
    onChange(actions.map((each, i) => (i === at ? { ...each, ...part } : each)));
  return (
    <fieldset>
      <legend>To be done</legend>
      <ol className="flex flex-col gap-1">
        {actions.map(({ what, owner, due }, i) => (
          <li key={i} className="flex flex-wrap items-center gap-2">
            <input
              className="input input-sm w-80"
              aria-label={`What is to be done, ${i + 1}`}
              placeholder="what"
              maxLength={300}
              value={what}
              onChange={(event) => set(i, { what: event.target.value })}
            />
            <input
              className="input input-sm w-44"
              aria-label={`By whom, ${i + 1}`}
              placeholder="by whom"
              maxLength={200}
              value={owner}
              onChange={(event) => set(i, { owner: event.target.value })}
            />
            <DateField label={`By when, ${i + 1}`} small value={due ?? ""} onDate={(date) => set(i, { due: date })} />
            <RemoveButton what={`line ${i + 1}`} onRemove={() => onChange(actions.filter((_, j) => j !== i))} />
          </li>
        ))}
      </ol>
      <button type="button" className="btn btn-xs mt-1" onClick={() => onChange([...actions, NO_ACTION])}>
        <Plus size={12} aria-hidden="true" /> One more
      </button>
    </fieldset>
  );
}

interface Props {
  readonly gate: Gate;
  readonly asked: GateEvent;
  readonly keeper: GateKeeper;
}

/** Decides what is asked: the choice says what it does before it is made. */
export function DecideGate({ gate, asked, keeper }: Props) {
  const missing = gate.conditions.filter(({ met }) => met === false);
  const [decision, setDecision] = useState<GateDecision>(missing.length === 0 ? "passed" : "conditional");
  const [word, setWord] = useState("");
  const [actions, setActions] = useState<Action[]>(
    missing.length === 0 ? [NO_ACTION] : missing.map(({ words }) => ({ ...NO_ACTION, what: words })),
  );
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const said = actions.filter(({ what }) => what.trim() !== "");
  const isReady = word.trim() !== "" && (decision !== "conditional" || said.length > 0);
  return (
    <form
      className="flex max-w-4xl flex-col items-start gap-2 pt-2 text-sm"
      aria-label="Decide"
      onSubmit={(event) => {
        event.preventDefault();
        setBusy(true);
        const body = { asked: asked.id, decision, word: word.trim(), actions: decision === "conditional" ? said : [] };
        void keeper.decide(gate.stage, body).then((answer) => {
          setFault(answer);
          setBusy(false);
        });
      }}
    >
      <fieldset className="flex flex-col gap-1">
        <legend className="sr-only">Decision</legend>
        {GATE_DECISIONS.map((each) => {
          const [name, means] = DECISION_WORDS[each];
          const stays = each === "passed" && missing.length > 0;
          return (
            <label key={each} className="flex items-baseline gap-2">
              <input
                type="radio"
                name="decision"
                className="radio radio-xs self-center"
                value={each}
                checked={decision === each}
                disabled={stays}
                onChange={() => setDecision(each)}
              />
              {name}{" "}
              <span className="muted">{stays ? `not while ${missing.length} of what must be true is not` : means}</span>
            </label>
          );
        })}
      </fieldset>
      {decision === "conditional" && <Actions actions={actions} onChange={setActions} />}
      <WordField label="A word with it" word={word} onWord={setWord} fault={fault} />
      <button className="btn btn-primary btn-sm" disabled={busy || !isReady}>
        {DECISION_WORDS[decision][0]}
      </button>
    </form>
  );
}
