import { stateWords } from "./words/whatIfWords.ts";

it("a what-if says how it stands", () => {
  const bare = { request: null, decidedBy: null, decidedAt: null, word: null, baseline: null, whole: false };
  expect(stateWords({ ...bare, state: "open" })).toBe("tried beside the live plan");
  expect(stateWords({ ...bare, state: "asked", request: 3 })).toBe("change request 3, waits for a decision");
  const approved = {
    ...bare,
    state: "approved" as const,
    request: 3,
    decidedBy: "Margit",
    baseline: 2,
    word: "agreed",
  };
  expect(stateWords(approved)).toBe("change request 3, approved by Margit as baseline 2, alone: “agreed”");
  expect(stateWords({ ...approved, whole: true })).toBe(
    "change request 3, approved by Margit as baseline 2, with the whole plan as it stood: “agreed”",
  );
});
