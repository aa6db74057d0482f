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

const POINT = 10;
/** So finely is the room searched for. */
const STEP = 3;
const FURTHEST = 60;

/** 0, then up and down by turns, ever further. */
const SHIFTS = [0, ...Array.from({ length: FURTHEST }, (_each, i) => (i + 1) * STEP).flatMap((by) => [by, -by])];

const onLabel = (a: Labelled, b: Labelled): boolean =>
  Math.abs(a.x - b.x) < LABEL_WIDTH && Math.abs(a.y - b.y) < LABEL_HEIGHT;
/** Whether a label that begins beside `label` lies on a point. */
const onPoint = (label: Labelled, point: Labelled): boolean =>
  point.x > label.x + POINT / 2 &&
  point.x < label.x + LABEL_WIDTH &&
  Math.abs(point.y - label.y) < (LABEL_HEIGHT + POINT) / 2;

/**
 * How far each label is moved, up or down, so that it lies on no other and, where there is room, on no point: as little as will do.
 * @returns pixels downwards, in the order of the points
 */
export function labelShifts(points: readonly Labelled[]): number[] {
  const placed: Labelled[] = [];
  const shifts = points.map(() => 0);
  const order = points.map((_point, i) => i).sort((a, b) => points[a]!.y - points[b]!.y || points[a]!.x - points[b]!.x);
  for (const i of order) {
    const at = (shift: number): Labelled => ({ x: points[i]!.x, y: points[i]!.y + shift });
    const free = SHIFTS.filter((shift) => !placed.some((other) => onLabel(at(shift), other)));
    const shift = free.find((each) => !points.some((point) => onPoint(at(each), point))) ?? free[0] ?? 0;
    placed.push(at(shift));
    shifts[i] = shift;
  }
  return shifts;
}
