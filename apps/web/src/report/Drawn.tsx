import { LETTER, type Drawing, type Ink } from "@chronometra/core";

const INKS: Readonly<Record<Ink, string>> = {
  ink: "var(--ink)",
  faint: "var(--muted)",
  hair: "var(--hairline)",
  planned: "var(--ink)",
  earned: "var(--favourable)",
  spent: "var(--brass)",
  late: "var(--adverse)",
};

/** A drawing of a report in the colours of the page. */
export const Drawn = ({ drawing: { width, height, shapes }, name }: { drawing: Drawing; name: string }) => (
  <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={name} className="my-2 w-full max-w-3xl">
    {shapes.map((shape, i) =>
      shape.is === "text" ? (
        <text key={i} x={shape.x} y={shape.y} fontSize={LETTER} textAnchor={shape.anchor} fill={INKS[shape.ink]}>
          {shape.text}
        </text>
      ) : (
        <polyline
          key={i}
          points={shape.points.map((point) => point.join(",")).join(" ")}
          fill="none"
          stroke={INKS[shape.ink]}
          strokeWidth={shape.width}
          strokeDasharray={shape.dash.join(" ")}
        />
      ),
    )}
  </svg>
);
