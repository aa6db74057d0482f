/** @jest-environment jsdom */
import { act, renderHook, waitFor } from "@testing-library/react";
import type { PointerEvent as ReactPointerEvent } from "react";
import { openOf, parseDate } from "@chronometra/core";
import { toast } from "../../../shared/messages/toast.ts";
import { stage } from "../../testing/stage.ts";
import { xOf, type Scale } from "../scale.ts";
import { useChartDrag, type Handle } from "./useChartDrag.ts";

jest.mock("../../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const at = (date: string): number => openOf(parseDate(date)!);
const SCALE: Scale = { from: at("2026-03-02"), to: at("2026-06-01"), pixelsPerDay: 20 };
/** Rows lie one below the other, twenty pixels each. */
const rowAt = (y: number) => stage.session.snapshot().sheet!.rows[Math.floor(y / 20)] ?? null;
const yOf = (id: string): number => stage.session.snapshot().sheet!.rows.findIndex((row) => row.id === id) * 20 + 10;
const x = (date: string): number => xOf(SCALE, at(date));
const pointer = (type: string, clientX: number, clientY: number): Event =>
  Object.assign(new Event(type), { clientX, clientY });

function dragging(scale = SCALE) {
  const { result } = renderHook(() =>
    useChartDrag({
      rows: stage.session.snapshot().sheet!.rows,
      scale,
      session: stage.session,
      rowAt,
      xAt: (clientX) => clientX,
    }),
  );
  const grab = (id: string, handle: Handle, clientX: number): void =>
    act(() =>
      result.current.onGrab(
        { button: 0, clientX, clientY: yOf(id), preventDefault() {}, stopPropagation() {} } as ReactPointerEvent,
        id,
        handle,
      ),
    );
  const to = (clientX: number, clientY: number): void =>
    act(() => void dispatchEvent(pointer("pointermove", clientX, clientY)));
  const drop = (clientX: number, clientY: number): void =>
    act(() => void dispatchEvent(pointer("pointerup", clientX, clientY)));
  return { result, grab, to, drop };
}
const stored = async () => {
  await act(() => stage.settled());
  return stage.server.plan;
};

describe("dragging in the chart", () => {
  it("moves an activity, and says what that would do before it is let go", async () => {
    const { result, grab, to, drop } = dragging();
    grab("paint", "band", x("2026-03-02"));
    to(x("2026-03-16"), yOf("paint"));
    await waitFor(() => expect(result.current.drawn?.words).toMatch(/16 Mar/));
    expect(result.current.drawn?.ghosts.has("paint")).toBe(true);
    expect((await stored()).activities.get("paint")!.wish).toBeUndefined();
    drop(x("2026-03-16"), yOf("paint"));
    await waitFor(async () => expect((await stored()).activities.get("paint")!.wish?.date).toBe("2026-03-16"));
    expect(result.current.drawn).toBeNull();
  });

  it("is a press and no drag below a few pixels", async () => {
    const { result, grab, to, drop } = dragging();
    grab("paint", "band", 100);
    to(102, yOf("paint"));
    drop(102, yOf("paint"));
    expect(result.current.drawn).toBeNull();
    expect((await stored()).activities.get("paint")!.wish).toBeUndefined();
  });

  it("is left by Escape, with nothing done", async () => {
    const { result, grab, to, drop } = dragging();
    grab("paint", "band", x("2026-03-02"));
    to(x("2026-03-16"), yOf("paint"));
    act(() => void dispatchEvent(new KeyboardEvent("keydown", { key: "Escape" })));
    drop(x("2026-03-16"), yOf("paint"));
    await waitFor(() => expect(result.current.drawn).toBeNull());
    expect((await stored()).activities.get("paint")!.wish).toBeUndefined();
  });

  it("stretches an activity by whole days, and finer where the chart is", async () => {
    const { grab, to, drop } = dragging();
    grab("paint", "end", x("2026-03-03"));
    to(x("2026-03-05"), yOf("paint"));
    drop(x("2026-03-05"), yOf("paint"));
    await waitFor(async () => expect((await stored()).activities.get("paint")!.durationMinutes).toBe(3 * 480));
  });

  it("draws a link to the end of the activity that it is let go on", async () => {
    const { result, grab, to, drop } = dragging();
    grab("dig", "fromFinish", x("2026-03-09"));
    to(x("2026-03-09"), 10_000);
    expect(result.current.drawn?.words).toBe("Let go on the activity that is to come after it");
    expect(result.current.drawn?.linkFrom).toEqual({ id: "dig", end: "finish" });
    drop(x("2026-03-02"), yOf("paint"));
    await waitFor(async () =>
      expect([...(await stored()).links.values()]).toContainEqual(
        expect.objectContaining({ from: "dig", to: "paint" }),
      ),
    );
  });

  it("does nothing where it is let go on nothing, and says why where it cannot be", async () => {
    const { grab, to, drop } = dragging();
    const before = (await stored()).links.size;
    grab("pour", "fromFinish", x("2026-03-12"));
    to(x("2026-03-12"), 10_000);
    drop(x("2026-03-12"), 10_000);
    grab("pour", "fromFinish", x("2026-03-12"));
    to(x("2026-03-02"), yOf("dig"));
    drop(x("2026-03-02"), yOf("dig"));
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith(expect.stringMatching(/loop/)));
    expect((await stored()).links.size).toBe(before);
  });

  it("asks before a wish goes that someone meant", async () => {
    await act(async () => {
      await stage.session.change([
        {
          type: "setWish",
          activity: "paint",
          wish: { type: "startNotBefore", date: "2026-03-10", reason: "the permit" },
        },
      ]);
      await stage.settled();
    });
    const { result, grab, to, drop } = dragging();
    const wish = async () => (await stored()).activities.get("paint")!.wish;
    const away = (): void => {
      grab("paint", "band", x("2026-03-10"));
      to(x("2026-03-23"), yOf("paint"));
      drop(x("2026-03-23"), yOf("paint"));
    };
    away();
    await waitFor(() => expect(result.current.asked).not.toBeNull());
    expect((await wish())?.date).toBe("2026-03-10");
    act(() => result.current.onKeep());
    expect(result.current.asked).toBeNull();
    away();
    await waitFor(() => expect(result.current.asked).not.toBeNull());
    act(() => result.current.asked!.put());
    await waitFor(async () => expect((await wish())?.date).toBe("2026-03-23"));
  });
});
