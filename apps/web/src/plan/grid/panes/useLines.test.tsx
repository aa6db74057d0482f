/** @jest-environment jsdom */
import { act, renderHook } from "@testing-library/react";
import { useLines } from "./useLines.ts";

const items = (from: number, to: number) =>
  Array.from({ length: to - from + 1 }, (_, i) => ({ index: from + i, start: (from + i) * 22 }));
const indices = (lines: readonly { index: number }[]): number[] => lines.map(({ index }) => index);

describe("lines of the plan", () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());

  it("come some at a time where a screen of them is to be made, the keyboard's row with the first, until all are there", () => {
    const { result } = renderHook(() => useLines(items(0, 42), 40, false));
    expect(indices(result.current)).toEqual([...Array.from({ length: 14 }, (_, i) => i), 40]);
    const counts = [result.current.length];
    for (let i = 0; i < 5; i++) {
      act(() => void jest.advanceTimersByTime(1));
      counts.push(result.current.length);
    }
    expect(counts).toEqual([15, 29, 42, 43, 43, 43]);
    expect(indices(result.current)).toEqual(Array.from({ length: 43 }, (_, i) => i));
  });

  it("once made serve whatever is scrolled to, all at once, each row's line told from every other's", () => {
    const { result, rerender } = renderHook(({ from }) => useLines(items(from, from + 42), 0, false), {
      initialProps: { from: 0 },
    });
    for (let i = 0; i < 5; i++) act(() => void jest.advanceTimersByTime(1));
    rerender({ from: 500 });
    expect(indices(result.current)).toEqual(Array.from({ length: 43 }, (_, i) => 500 + i));
    expect(new Set(result.current.map(({ key }) => key)).size).toBe(43);
  });
});
