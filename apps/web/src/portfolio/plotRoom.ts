/** A point of the plot with its label to the right of it, in pixels from the top left. */
export interface Labelled {
  readonly x: number;
  readonly y: number;
}

/** The least room on either side of 1. */
const LEAST = 0.12;
const MARGIN = 0.08;

const LABEL_WIDTH = 52;
const LABEL_HEIGHT = 13;

/** From where to where an axis of indices reaches: 1 and every point are on it, with a margin. */
export function reachOf(values: readonly number[]): { readonly min: number; readonly max: number } {
  const [low, high] = [Math.min(1 - LEAST, ...values), Math.max(1 + LEAST, ...values)];
  const margin = (high - low) * MARGIN;
  return { min: Math.round((low - margin) * 100) / 100, max: Math.round((high + margin) * 100) / 100 };
}

/**
 * How far each label is moved down so that none lies on another: from the top, each goes below those it would lie on.
 * @returns pixels, in the order of the points
 */
export function labelShifts(points: readonly Labelled[]): number[] {
  const placed: Labelled[] = [];
  const shifts = points.map(() => 0);
  const order = points.map((_point, i) => i).sort((a, b) => points[a]!.y - points[b]!.y || points[a]!.x - points[b]!.x);
  for (const i of order) {
    const { x, y } = points[i]!;
    let at = y;
    for (const other of [...placed].sort((a, b) => a.y - b.y))
      if (Math.abs(other.x - x) < LABEL_WIDTH && Math.abs(other.y - at) < LABEL_HEIGHT) at = other.y + LABEL_HEIGHT;
    placed.push({ x, y: at });
    shifts[i] = at - y;
  }
  return shifts;
}
