import type { Clash } from "@chronometra/contract";
import { momentWords } from "../shared/words.ts";

const shown = (value: unknown): string => (value === null ? "nothing" : typeof value === "object" ? JSON.stringify(value) : String(value));

/** Fields that someone else wrote meanwhile: both values, so that one can be chosen by typing it again. */
export function ClashView({ clashes }: { clashes: readonly Clash[] }) {
  return (
    <div role="alert" className="adverse py-1">
      <p className="font-semibold">Someone else changed the same thing meanwhile. Theirs stands; type yours again if it should.</p>
      <ul>{clashes.map(({ path, what, theirs, yours, by, at }) => <li key={path}>{what}: {by} wrote {shown(theirs)} on {momentWords(at)}; you wrote {shown(yours)}</li>)}</ul>
    </div>
  );
}
