import type { Fitness } from "@chronometra/core";
import type { Tone } from "../shared/words/words.ts";

export { FITNESS_WORDS } from "@chronometra/core";

export const FITNESS_TONES: Record<Fitness, Tone> = { fit: "favourable", mend: "undecided", unfit: "adverse" };
