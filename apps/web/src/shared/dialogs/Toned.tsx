import type { ReactNode } from "react";
import type { Tone } from "../words/words.ts";

const GLYPHS: Record<Tone, string> = { adverse: "▾", favourable: "▴", undecided: "◦", plain: "" };

interface Props {
  readonly tone: Tone;
  /** Puts a mark before what does not say in words which way it is. */
  readonly marked?: boolean;
  readonly children: ReactNode;
}

/** Good, bad or undecided news: coloured, and said by a word or a mark. */
export function Toned({ tone, marked = false, children }: Props) {
  return (
    <span className={tone === "plain" ? "" : tone}>
      {marked && tone !== "plain" && (
        <span aria-label={tone === "adverse" ? "adverse" : tone === "favourable" ? "favourable" : "undecided"}>
          {GLYPHS[tone]}{" "}
        </span>
      )}
      {children}
    </span>
  );
}
