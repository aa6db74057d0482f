import { plainText } from "./paperWords.ts";

it("text goes onto paper without what would not be shown, or would turn what follows it; markup stays text", () => {
  expect(plainText("<b>bold</b> & =1+1 \u202eevil\u202c\u0000 Ωμέγα 港口 😀 half \ud83d.")).toBe(
    "<b>bold</b> & =1+1 evil Ωμέγα 港口 😀 half \ufffd.",
  );
});
