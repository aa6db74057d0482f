import { ROW_HEIGHT } from "../chart/scale.ts";

const EDGE = 10;
const STEP = 14;

/** Where a row that is dragged would come to stand: between two lines, as deep in the tree as it is held. */
export const DropLine = ({ line, depth, width }: { line: number; depth: number; width: number }) => (
  <div
    aria-hidden="true"
    className="absolute z-3 h-0.5 bg-accent"
    style={{ top: line * ROW_HEIGHT - 1, left: EDGE + depth * STEP, width: width - EDGE - 2 - depth * STEP }}
  />
);
