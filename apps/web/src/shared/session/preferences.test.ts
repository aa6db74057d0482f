/** @jest-environment jsdom */
import { listen } from "../../testing/fakePage.tsx";
import { keepPreference, preference, takePreferences } from "./preferences.ts";

jest.mock("../messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

/**
 * The page is left within the moment in which something was chosen; the server tells the next one of the time before.
 */
const leave = (): void => void window.dispatchEvent(new Event("pagehide"));

it("what was chosen in the moment before a page was left holds on the next one, for the same person alone and once", () => {
  const sent = listen(() => ({ ok: true }));
  takePreferences({ columns: "all", theme: "dark" }, "ines");
  keepPreference("columns", "few");
  leave();
  takePreferences({ columns: "all", theme: "dark" }, "ines");
  expect([preference("columns"), preference("theme")]).toEqual(["few", "dark"]);
  expect(sent.map(({ to, body }) => [to, body])).toEqual([["PUT /api/preferences/columns", { value: "few" }]]);
  takePreferences({ columns: "all" }, "ines");
  expect(preference("columns")).toBe("all");

  keepPreference("columns", "few");
  leave();
  takePreferences({ columns: "some" }, "tomas");
  expect(preference("columns")).toBe("some");
  takePreferences({ columns: "all" }, "ines");
  expect(preference("columns")).toBe("all");
});

it("what was sent and not answered when the page was left holds on the next one too, and is sent so that it arrives", async () => {
  jest.useFakeTimers();
  const sent = listen(() => new Promise(() => undefined));
  takePreferences({ hint: "open" }, "margit");
  keepPreference("hint", "seen");
  await jest.advanceTimersByTimeAsync(500);
  expect(sent).toHaveLength(1);
  leave();
  expect(sent).toHaveLength(2);
  takePreferences({ hint: "open" }, "margit");
  expect(preference("hint")).toBe("seen");
  jest.useRealTimers();
});
