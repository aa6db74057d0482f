/** @jest-environment jsdom */
import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../messages/toast.ts";
import type { Column } from "./column.ts";
import { DataTable } from "./DataTable.tsx";
import { Foldable } from "../page/Foldable.tsx";
import { preference, takePreferences } from "../session/preferences.ts";

jest.mock("../messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

interface Line {
  readonly id: string;
  readonly name: string;
  readonly spent: number | null;
}

const LINES: readonly Line[] = [
  { id: "a", name: "Breakwater", spent: 300 },
  { id: "b", name: "Ferry landing", spent: null },
  { id: "c", name: "Anchorage", spent: 20 },
];
const COLUMNS: readonly Column<Line>[] = [
  { id: "name", head: "Project", value: ({ name }) => name },
  {
    id: "spent",
    head: "Spent",
    numeric: true,
    value: ({ spent }) => spent,
    explains: ({ name }) => `What ${name} has cost`,
    total: (rows) => rows.reduce((sum, { spent }) => sum + (spent ?? 0), 0),
  },
];

beforeAll(() => {
  globalThis.ResizeObserver = class {
    observe(): void {}
    unobserve(): void {}
    disconnect(): void {}
  };
  globalThis.fetch = (() => Promise.resolve(new Response(JSON.stringify({ ok: true })))) as typeof fetch;
});
beforeEach(() => {
  takePreferences({}, null);
  jest.mocked(toast).mockClear();
});

const draw = () =>
  render(
    <DataTable
      name="Projects"
      rows={LINES}
      columns={COLUMNS}
      rowKey={({ id }) => id}
      totalName="Together"
      empty="None."
    />,
  );
const names = (): (string | null)[] =>
  within(screen.getByRole("table"))
    .getAllByRole("row")
    .slice(1)
    .map((row) => row.querySelector("td")!.textContent);

describe("a table", () => {
  it("sorts by its head, what has no value last in either way, and says which way", async () => {
    const user = userEvent.setup();
    draw();
    await user.click(screen.getByRole("button", { name: "Spent" }));
    expect([names(), screen.getByRole("columnheader", { name: /Spent/ }).getAttribute("aria-sort")]).toEqual([
      ["Anchorage", "Breakwater", "Ferry landing", "Together"],
      "ascending",
    ]);
    await user.click(screen.getByRole("button", { name: /Spent/ }));
    expect(names()).toEqual(["Breakwater", "Anchorage", "Ferry landing", "Together"]);
  });

  it("adds up what the filter leaves", async () => {
    const user = userEvent.setup();
    draw();
    await user.type(screen.getByRole("searchbox"), "anch");
    expect(names()).toEqual(["Anchorage", "Together"]);
    expect(screen.getAllByRole("row").at(-1)!.textContent).toBe("Together20");
    await user.clear(screen.getByRole("searchbox"));
    await user.type(screen.getByRole("searchbox"), "nowhere");
    expect(screen.getByText("Nothing matches the filter.")).toBeTruthy();
  });

  it("says what a figure means to those who ask by keyboard, of that row", async () => {
    const user = userEvent.setup();
    draw();
    const cell = screen.getByRole("cell", { name: "20" });
    cell.focus();
    await user.keyboard("?");
    expect(jest.mocked(toast).mock.calls).toEqual([["What Anchorage has cost"]]);
    screen.getByRole("cell", { name: "Anchorage" }).focus();
    await user.keyboard("?");
    expect(jest.mocked(toast)).toHaveBeenCalledTimes(1);
  });

  it("lets a question mark be typed into a field that stands in a cell", async () => {
    const user = userEvent.setup();
    const field: Column<Line> = {
      id: "note",
      head: "Note",
      value: () => null,
      explains: () => "A note",
      show: ({ name }) => <input aria-label={`Note on ${name}`} />,
    };
    render(<DataTable name="Notes" rows={LINES} columns={[field]} rowKey={({ id }) => id} empty="None." />);
    await user.type(screen.getByLabelText("Note on Anchorage"), "why?");
    expect([screen.getByLabelText<HTMLInputElement>("Note on Anchorage").value, jest.mocked(toast).mock.calls]).toEqual(
      ["why?", []],
    );
  });

  it("leaves out what is put away, and remembers it", async () => {
    const user = userEvent.setup();
    const { unmount } = draw();
    await user.click(screen.getByText("Columns"));
    await user.click(screen.getByRole("checkbox", { name: "Spent" }));
    expect(screen.queryByRole("columnheader", { name: "Spent" })).toBeNull();
    unmount();
    draw();
    expect(screen.queryByRole("columnheader", { name: "Spent" })).toBeNull();
  });
});

it("what is folded stays so when one comes back, and is there for paper all the same", async () => {
  const user = userEvent.setup();
  const page = (
    <Foldable name="Curves" place="figures">
      the curves
    </Foldable>
  );
  const { unmount } = render(page);
  const button = () => screen.getByRole("button", { name: "Curves" });
  expect(button().getAttribute("aria-expanded")).toBe("true");
  await user.click(button());
  expect([
    button().getAttribute("aria-expanded"),
    preference("folded.figures"),
    screen.getByText("the curves").className,
  ]).toEqual(["false", "yes", "hidden print:block"]);
  unmount();
  render(page);
  expect(button().getAttribute("aria-expanded")).toBe("false");
});
