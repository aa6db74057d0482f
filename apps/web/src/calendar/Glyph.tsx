import type { CalendarKind } from "@chronometra/contract";

const PATHS: Readonly<Record<CalendarKind, string>> = {
  milestone: "M3 13 V1.5 H11 l-2.4 2.6 2.4 2.6 H3",
  deadline: "M7 1 V13 M7 5 l-4 -3 M7 12 l-4 -3",
  gate: "M2 4 h2.5 M2 11 h2.5 M5 4 L10 7.5 L5 11",
  timebox: "M2 2 V12 M12 2 V12 M2 9 H12",
  meeting: "M7 1.5 c-3 0 -3.6 2.5 -3.6 5 L2 10.5 H12 L10.6 6.5 c0 -2.5 -.6 -5 -3.6 -5 M6 12.5 h2",
  leave: "M1 7 h3 M6 7 h3 M11 7 h2",
};

interface Props {
  readonly kind: CalendarKind;
  readonly tone?: string;
  readonly done?: boolean;
}

/** What kind of thing stands on a day: a pennant, a barb, the leaves of a gate, a bell, days without work. */
export function Glyph({ kind, tone = "plain", done = false }: Props) {
  const ink = tone === "adverse" ? "var(--adverse)" : kind === "gate" ? "var(--brass)" : "var(--ink)";
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" className="shrink-0" opacity={done ? 0.5 : 1}>
      <path
        d={PATHS[kind]}
        fill={kind === "milestone" ? ink : "none"}
        stroke={ink}
        strokeWidth={kind === "gate" ? 1.8 : 1.2}
        strokeLinejoin="round"
      />
    </svg>
  );
}
