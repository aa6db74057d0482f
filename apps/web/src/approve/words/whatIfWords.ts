import type { WhatIf } from "@chronometra/contract";
import { momentWords } from "../../shared/words/words.ts";

/** How a what-if or change request stands, in words. */
export function stateWords({
  state,
  request,
  decidedBy,
  decidedAt,
  word,
  baseline,
  whole,
}: Pick<WhatIf, "state" | "request" | "decidedBy" | "decidedAt" | "word" | "baseline" | "whole">): string {
  const called = request === null ? "" : `change request ${request}, `;
  const when = decidedAt === null ? "" : ` on ${momentWords(decidedAt)}`;
  switch (state) {
    case "open":
      return "tried beside the live plan";
    case "asked":
      return `${called}waits for a decision`;
    case "approved":
      return `${called}approved by ${decidedBy}${when} as baseline ${baseline}${whole ? ", with the whole plan as it stood" : ", alone"}: “${word}”`;
    case "sentBack":
      return `${called}sent back by ${decidedBy}${when}: “${word}”`;
    case "kept":
      return `kept in the live plan${when}`;
    case "dropped":
      return `${called}dropped${when}`;
    default:
      return state satisfies never;
  }
}
