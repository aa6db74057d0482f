import type { Aspect, Rating } from "@chronometra/core";

interface Saying {
  readonly aspect: Aspect;
  readonly rating?: Rating;
  readonly reason?: string;
  readonly text: string;
}

/** What managers said of their own, by project and period; of all else the reports say what the figures say. */
export const SAID: Readonly<Record<string, Readonly<Record<number, readonly Saying[]>>>> = {
  "LG-02": {
    8: [
      {
        aspect: "schedule",
        rating: "care",
        reason: "The yard has confirmed both leaves for September.",
        text:
          "The north leaves are two weeks behind the yard’s own plan. The yard works Saturdays from now on; I expect to " +
          "hold the opening to traffic.",
      },
    ],
    9: [
      {
        aspect: "schedule",
        text:
          "The Saturdays did not win back what was lost: the sill drawings came late, and fitting waits for them. The " +
          "opening before Christmas cannot be held as things stand; a second fitting crew would bring it back into January.",
      },
      {
        aspect: "overall",
        text: "One promise will break unless a second fitting crew is agreed. The cost of it fits into contingency.",
      },
    ],
  },
};
