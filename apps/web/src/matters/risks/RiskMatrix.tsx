import { CHANCE_BANDS, type Matter, type MatterSettings } from "@chronometra/contract";
import { useMemo } from "react";
import { countWords, percentWords } from "../../shared/words/words.ts";
import { placeRisks, spreadIn, type PlacedRisk, type Spot } from "./matrix.ts";

const CELL_WIDTH = 128;
const CELL_HEIGHT = 54;
const LEFT = 92;
const TOP = 8;
const FOOT = 40;

interface Drawn extends PlacedRisk {
  readonly x: number;
  readonly y: number;
  readonly letter: string;
}

const middle = ({ severity, band }: Spot): readonly [x: number, y: number] => [
  LEFT + (severity + 0.5) * CELL_WIDTH,
  TOP + (CHANCE_BANDS.length - band - 0.5) * CELL_HEIGHT,
];

/** More than this in one spot are told by their number; each is in the table. */
const MOST_APART = 15;

/** A spot with more risks than can be told apart. */
interface Crowd {
  readonly count: number;
  readonly at: Spot;
}

/** Risks with where they are drawn, those of one spot beside each other; and spots that are too full for that. */
function draw(placed: readonly PlacedRisk[]): { drawn: Drawn[]; crowds: Crowd[] } {
  const bySpot = new Map<string, PlacedRisk[]>();
  for (const each of placed) {
    const key = `${each.at.severity} ${each.at.band}`;
    bySpot.set(key, [...(bySpot.get(key) ?? []), each]);
  }
  const spots = [...bySpot.values()];
  const crowds = spots.filter((here) => here.length > MOST_APART);
  const drawn = spots
    .filter((here) => here.length <= MOST_APART)
    .flatMap((here) =>
      spreadIn(here.length).map(([dx, dy], i) => {
        const [x, y] = middle(here[i]!.at);
        return { ...here[i]!, x: x + dx * (CELL_WIDTH - 16), y: y + dy * (CELL_HEIGHT - 10), letter: "" };
      }),
    );
  return {
    drawn: drawn.sort((a, b) => a.y - b.y || b.x - a.x).map((each, i) => ({ ...each, letter: String(i + 1) })),
    crowds: crowds.map((here) => ({ count: here.length, at: here[0]!.at })),
  };
}

const bandWords = (band: number): string => {
  const [least, next] = [CHANCE_BANDS[band]!, CHANCE_BANDS[band + 1]];
  return next === undefined ? `${percentWords(least)} and more` : `${percentWords(least)} to ${percentWords(next)}`;
};

/** The lines between the cells, with what columns and rows are. */
function Ruled({ settings: { severities } }: { settings: MatterSettings }) {
  const [right, bottom] = [LEFT + severities.length * CELL_WIDTH, TOP + CHANCE_BANDS.length * CELL_HEIGHT];
  return (
    <g className="muted" fill="currentColor" fontSize="11">
      {CHANCE_BANDS.map((_, band) => (
        <text key={band} x={LEFT - 8} y={middle({ severity: 0, band })[1] + 4} textAnchor="end">
          {bandWords(band)}
        </text>
      ))}
      {severities.map(({ id, name }, severity) => (
        <text key={id} x={middle({ severity, band: 0 })[0]} y={bottom + 16} textAnchor="middle">
          {name}
        </text>
      ))}
      <text x={LEFT} y={bottom + 34}>
        severity, the least first
      </text>
      <g stroke="currentColor" strokeOpacity="0.35">
        {Array.from({ length: CHANCE_BANDS.length + 1 }, (_, i) => (
          <line key={`row ${i}`} x1={LEFT} x2={right} y1={TOP + i * CELL_HEIGHT} y2={TOP + i * CELL_HEIGHT} />
        ))}
        {Array.from({ length: severities.length + 1 }, (_, i) => (
          <line key={`column ${i}`} x1={LEFT + i * CELL_WIDTH} x2={LEFT + i * CELL_WIDTH} y1={TOP} y2={bottom} />
        ))}
      </g>
    </g>
  );
}

/** Where it came from since the last period was issued, and where the response is to bring it. */
function Ways({ risk: { x, y, was, then } }: { risk: Drawn }) {
  const from = was === null ? null : middle(was);
  const to = then === null ? null : middle(then);
  return (
    <g stroke="currentColor" fill="none">
      {from !== null && <line x1={from[0]} y1={from[1]} x2={x} y2={y} strokeWidth="2" strokeOpacity="0.55" />}
      {from !== null && <circle cx={from[0]} cy={from[1]} r="3" fill="currentColor" fillOpacity="0.55" stroke="none" />}
      {to !== null && <line x1={x} y1={y} x2={to[0]} y2={to[1]} strokeDasharray="2 4" strokeOpacity="0.7" />}
      {to !== null && <rect x={to[0] - 4} y={to[1] - 4} width="8" height="8" strokeOpacity="0.8" />}
    </g>
  );
}

interface Props {
  readonly matters: readonly Matter[];
  readonly settings: MatterSettings;
  readonly onOpen: (matter: Matter) => void;
}

/** Open risks by how likely and how severe they are, with how they moved and where responses are to bring them. */
export function RiskMatrix({ matters, settings, onOpen }: Props) {
  const { drawn, crowds, unplaced } = useMemo(() => {
    const { placed, unplaced: rest } = placeRisks(matters, settings);
    return { ...draw(placed), unplaced: rest };
  }, [matters, settings]);
  const [width, height] = [
    LEFT + settings.severities.length * CELL_WIDTH + 1,
    TOP + CHANCE_BANDS.length * CELL_HEIGHT + FOOT,
  ];
  if (drawn.length === 0 && crowds.length === 0 && unplaced.length === 0) return null;
  return (
    <figure className="flex flex-wrap gap-x-8 gap-y-2 pb-3">
      <svg
        width={width}
        height={height}
        role="group"
        aria-label="Open risks by probability and severity"
        className="max-w-full"
      >
        <Ruled settings={settings} />
        {crowds.map(({ count, at }) => (
          <text
            key={`${at.severity} ${at.band}`}
            x={middle(at)[0]}
            y={middle(at)[1] + 5}
            textAnchor="middle"
            className="figure"
            fill="currentColor"
          >
            {countWords(count, "risk", "risks")}
          </text>
        ))}
        {drawn.map((risk) => (
          <Ways key={risk.risk.id} risk={risk} />
        ))}
        {drawn.map(({ risk, x, y, letter }) => (
          <g
            key={risk.id}
            role="button"
            tabIndex={0}
            aria-label={`${letter}: ${risk.title}`}
            className="cursor-pointer"
            onClick={() => onOpen(risk)}
            onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && onOpen(risk)}
          >
            <title>{`${risk.title}: ${percentWords(risk.chance, 1)}`}</title>
            <rect x={x - 12} y={y - 12} width="24" height="24" fill="transparent" />
            <path
              d={`M${x} ${y - 10} L${x + 11} ${y} L${x} ${y + 10} L${x - 11} ${y} Z`}
              fill="var(--color-base-100)"
              stroke="currentColor"
              strokeWidth={risk.overdue ? 2.5 : 1.25}
            />
            <text x={x} y={y + 3.5} textAnchor="middle" fontSize="10" fill="currentColor">
              {letter}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="min-w-60 flex-1 text-sm">
        <ol className="max-h-60 overflow-auto">
          {drawn.map(({ risk, letter }) => (
            <li key={risk.id} className="flex gap-2">
              <span className="figure w-5 text-right">{letter}</span>
              <button
                type="button"
                className="min-h-[24px] cursor-pointer text-left hover:underline"
                onClick={() => onOpen(risk)}
              >
                {risk.title} <span className="muted">{percentWords(risk.chance, 1)}</span>
              </button>
            </li>
          ))}
        </ol>
        <p className="muted pt-1">
          A tail leads from where a risk stood when the last period was issued; dots lead to where its response is to
          bring it.
          {unplaced.length > 0 &&
            ` ${countWords(unplaced.length, "open risk has", "open risks have")} no severity yet, and no place here.`}
        </p>
      </figcaption>
    </figure>
  );
}
