import type { Gate } from "@chronometra/contract";
import { useState } from "react";
import type { GateKeeper } from "./queries.ts";
import { WordField } from "./WordField.tsx";

/** Asks for the gate that comes next; where something is missing, with a word why. */
export function AskGate({ gate, keeper }: { readonly gate: Gate; readonly keeper: GateKeeper }) {
  const [word, setWord] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const missing = gate.conditions.filter(({ met }) => met === false).length;
  return (
    <form
      className="flex max-w-3xl flex-col items-start gap-2 pt-3 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        setBusy(true);
        void keeper.ask(gate.stage, word.trim()).then((answer) => {
          setFault(answer);
          setBusy(false);
        });
      }}
    >
      <WordField
        label={missing === 0 ? "A word with it" : `Why it is asked for all the same: ${missing} not met`}
        word={word}
        onWord={setWord}
        fault={fault}
      />
      <button className="btn btn-primary btn-sm" disabled={busy || (missing > 0 && word.trim() === "")}>
        Ask for this gate
      </button>
      <p className="muted">
        {gate.decider === null ? "All approvers are told." : `${gate.decider.name} is told.`} Whoever asks does not
        decide.
      </p>
    </form>
  );
}
