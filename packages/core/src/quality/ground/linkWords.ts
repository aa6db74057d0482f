import { numberWords } from "../../words/numberWords.ts";
import { offence, type Offence } from "./check.ts";
import { inDays, type PlacedLink } from "./ground.ts";

const WORDS = {
  FS: ["finishes", "starts"],
  SS: ["starts", "starts"],
  FF: ["finishes", "finishes"],
  SF: ["starts", "finishes"],
} as const;

/** A link in words, seen from its later end: `starts 2 d after Dig finishes`. */
export function linkWords({ link, from, to }: PlacedLink): string {
  const [theirs, own] = WORDS[link.type ?? "FS"];
  const lag = link.lagMinutes ?? 0;
  const much = link.lagIn === "elapsed" ? `${numberWords(Math.abs(lag) / 60)} h elapsed` : inDays(Math.abs(lag), to);
  return `${own} ${lag === 0 ? "" : `${much} `}${lag < 0 ? "before" : "after"} ${from.activity.name} ${theirs}`;
}

/** The later end of a link, for the link's sake. */
export const linkOffence = (placed: PlacedLink): Offence => offence(placed.to.at, placed, linkWords);
