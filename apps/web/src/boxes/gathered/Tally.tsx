import type { GatheredView } from "@chronometra/contract";
import { countWords } from "../../shared/words/words.ts";
import { useWord } from "../../project/useWord.ts";

type Part = GatheredView["works"][number];

const STEP = 14;
const MOST_IN_A_ROW = 60;

/** A part as a peg: driven in as far as it has come, struck through where it is blocked. */
function Peg({ part: { state, parked, blockedBy, name }, x, y }: { part: Part; x: number; y: number }) {
  const ink = blockedBy !== null ? "var(--adverse)" : "var(--ink)";
  const depth = state === "complete" ? 16 : state === "inProgress" ? 8 : 0;
  return (
    <g transform={`translate(${x} ${y})`} opacity={parked ? 0.35 : 1}>
      <title>{name}</title>
      <path d="M1 3 h8 v16 h-8 z" fill="none" stroke={ink} strokeWidth="1" />
      {depth > 0 && <path d={`M1 ${19 - depth} h8 v${depth} h-8 z`} fill={ink} />}
      {blockedBy !== null && <path d="M-1 21 L11 1" stroke={ink} strokeWidth="1.6" />}
    </g>
  );
}

/** All that a milestone gathers, a peg each in the order of the plan. */
export function Tally({ view }: { view: GatheredView }) {
  const wordOf = useWord();
  const { works, complete, inProgress, notStarted, blocked, parked, count } = view;
  const rows = Math.ceil(works.length / MOST_IN_A_ROW);
  const width = Math.min(works.length, MOST_IN_A_ROW) * STEP;
  const said = [
    countWords(count, "part", "parts"),
    `${complete} ${wordOf("complete")}`,
    `${inProgress} ${wordOf("inProgress")}`,
    `${notStarted} ${wordOf("notStarted")}`,
    ...(blocked > 0 ? [`${blocked} blocked`] : []),
    ...(parked > 0 ? [`${parked} ${wordOf("parked")}`] : []),
  ].join(" · ");
  return (
    <figure className="py-2">
      <svg
        width={width}
        height={rows * 26}
        className="max-w-full"
        viewBox={`0 0 ${Math.max(1, width)} ${rows * 26}`}
        role="img"
        aria-label={said}
      >
        {works.map((part, i) => (
          <Peg key={part.id} part={part} x={(i % MOST_IN_A_ROW) * STEP + 2} y={Math.floor(i / MOST_IN_A_ROW) * 26} />
        ))}
      </svg>
      <figcaption className="text-sm">{said}</figcaption>
    </figure>
  );
}
