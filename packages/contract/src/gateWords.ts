/** What happens at a gate: it is asked for, that is taken back, or someone decides. */
export const GATE_ACTS = ["asked", "withdrawn", "passed", "conditional", "sentBack", "stopped"] as const;
export type GateAct = (typeof GATE_ACTS)[number];
export const GATE_DECISIONS = ["passed", "conditional", "sentBack", "stopped"] as const satisfies readonly GateAct[];
export type GateDecision = (typeof GATE_DECISIONS)[number];

/** The acts in words, as what became of a gate. */
export const GATE_ACT_WORDS: Readonly<Record<GateAct, string>> = {
  asked: "asked for",
  withdrawn: "withdrawn",
  passed: "passed",
  conditional: "passed with conditions",
  sentBack: "sent back",
  stopped: "stopped",
};

/** Decisions by which a project goes on into its next stage. */
export const isPassed = (act: GateAct): boolean => act === "passed" || act === "conditional";
