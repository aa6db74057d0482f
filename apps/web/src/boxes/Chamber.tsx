import { formatHours } from "@chronometra/core";

interface Props {
  /** Hours in minutes: worked, still to be worked, and what its people have. */
  readonly bookedMinutes: number;
  readonly leftMinutes: number;
  readonly capacityMinutes: number;
  /** The minutes that the whole width stands for, the same for all that stand below each other. */
  readonly widest: number;
}

const WIDTH = 400;
const GATE = 7;

/** A timebox as a lock chamber: between its gates the hours of its people, in it what was worked and what remains. */
export function Chamber({ bookedMinutes, leftMinutes, capacityMinutes, widest }: Props) {
  const at = (minutes: number): number => GATE + (minutes * (WIDTH - 2 * GATE - 2)) / Math.max(1, widest);
  const [booked, full, gate] = [at(bookedMinutes), at(bookedMinutes + leftMinutes), at(capacityMinutes)];
  const [worked, left, all] = [bookedMinutes, leftMinutes, capacityMinutes].map(formatHours);
  const words = `${worked} worked and ${left} remaining, of ${all} that its people have.`;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 26`}
      className="h-6 w-full min-w-0"
      role="img"
      aria-label={words}
      preserveAspectRatio="none"
    >
      <title>{words}</title>
      <rect x={GATE} y="9" width={booked - GATE} height="12" fill="var(--ink)" opacity="0.75" />
      <rect
        x={booked}
        y="9"
        width={Math.max(0, Math.min(full, gate) - booked)}
        height="12"
        fill="var(--brass)"
        opacity="0.45"
      />
      {full > gate && (
        <rect
          x={Math.max(gate, booked)}
          y="9"
          width={full - Math.max(gate, booked)}
          height="12"
          fill="var(--adverse)"
          opacity="0.55"
        />
      )}
      <path
        d={`M${GATE} 21.5 H${WIDTH}`}
        stroke="var(--ink)"
        strokeWidth="1"
        opacity="0.35"
        vectorEffect="non-scaling-stroke"
      />
      {[GATE, gate].map((x, i) => (
        <path
          key={i}
          d={`M${x} 3 V22 M${x - 5} 3 H${x + 1}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}
