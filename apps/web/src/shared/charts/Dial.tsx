interface Props {
  /** How much of the period's time has gone, 0 to 1. */
  readonly share: number;
  readonly size?: number;
}

const MARKS = Array.from({ length: 12 }, (_, i) => i * 30);

/** The chronometer's dial: one turn is the time from the data date's period to the issue of its reports. */
export function Dial({ share, size = 36 }: Props) {
  return (
    <svg width={size} height={size} viewBox="0 0 40 40" aria-hidden="true">
      <circle cx="20" cy="20" r="18.5" fill="none" stroke="var(--bar-brass)" strokeWidth="1.6" />
      {MARKS.map((angle) => (
        <line
          key={angle}
          x1="20"
          y1="4.2"
          x2="20"
          y2={angle % 90 === 0 ? 7.6 : 6}
          stroke="var(--bar-muted)"
          strokeWidth="1"
          transform={`rotate(${angle} 20 20)`}
        />
      ))}
      <path d={arc(Math.min(Math.max(share, 0), 0.9999))} fill="none" stroke="var(--bar-brass)" strokeWidth="2.2" />
      <line
        x1="20"
        y1="22.5"
        x2="20"
        y2="8.5"
        stroke="var(--bar-ink)"
        strokeWidth="1.6"
        strokeLinecap="round"
        transform={`rotate(${Math.min(Math.max(share, 0), 1) * 360} 20 20)`}
      />
      <circle cx="20" cy="20" r="1.7" fill="var(--bar-brass)" />
    </svg>
  );
}

function arc(share: number): string {
  const angle = share * 2 * Math.PI;
  return `M20 6.5 A13.5 13.5 0 ${share > 0.5 ? 1 : 0} 1 ${20 + 13.5 * Math.sin(angle)} ${20 - 13.5 * Math.cos(angle)}`;
}
