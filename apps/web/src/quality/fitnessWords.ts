import type { Fitness } from "@chronometra/core";
import type { Tone } from "../shared/words/words.ts";

export const FITNESS_WORDS: Record<Fitness, string> = {
  fit: "Fit to approve",
  mend: "Fit with mends",
  unfit: "Not fit",
};
export const FITNESS_TONES: Record<Fitness, Tone> = { fit: "favourable", mend: "undecided", unfit: "adverse" };
