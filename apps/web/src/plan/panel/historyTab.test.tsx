/** @jest-environment jsdom */
import type { ActivityHistory } from "@chronometra/contract";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter, Route, Routes } from "react-router";
import type { Sheet } from "../engine/sheet.ts";
import { HistoryTab } from "./HistoryTab.tsx";

const line = (field: string, name: string, was: string, is: string) => ({
  ...{ path: `activities/dig/${field}`, what: "Dig", field: name, was, is, of: ["dig"] },
});
const stored = (revision: number, lines: ReturnType<typeof line>[]): ActivityHistory["lists"][number] => ({
  ...{ revision, at: "2026-11-27T15:00:00.000Z", by: "Tomas", label: "x", through: "reports", takenBack: false, lines },
});
const asked: (string | undefined)[] = [];
let pages: ActivityHistory[] = [];
jest.mock("../../shared/session/api.ts", () => ({
  call: (_key: string, { query }: { query: { before?: string } }) => {
    asked.push(query.before);
    return Promise.resolve(pages[query.before === undefined ? 0 : 1]);
  },
}));

const show = (field: string | null): void => {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={["/projects/p/plan"]}>
        <Routes>
          <Route
            path="/projects/:project/plan"
            element={<HistoryTab activity="dig" field={field} sheet={{} as Sheet} />}
          />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
};
const rows = async (): Promise<(string | null)[]> => {
  const list = await screen.findByRole("list", { name: "History of the activity" });
  return [...list.querySelectorAll("ul > li")].map((each) => each.textContent);
};

beforeEach(() => {
  asked.length = 0;
  pages = [
    {
      lists: [
        stored(4, [line("durationMinutes", "duration", "40 h", "48 h"), line("percent", "percent done", "–", "20%")]),
      ],
      older: 4,
    },
    { lists: [stored(2, [line("name", "name", "Digging", "Dig")])], older: null },
  ];
});

describe("the history of an activity", () => {
  it("says of each field what was and what is, and of the chosen cell alone where it was changed", async () => {
    show("durationMinutes");
    expect(await rows()).toEqual(["40 h → 48 h"]);
    await userEvent.selectOptions(screen.getByLabelText("Which field"), "everything about it");
    expect(await rows()).toEqual(["duration: 40 h → 48 h", "percent done: 20%"]);
    expect(screen.getByText(/Tomas, reports/)).toBeTruthy();
  });

  it("goes on to what is older", async () => {
    show(null);
    await userEvent.click(await screen.findByRole("button", { name: "Older" }));
    expect(await rows()).toHaveLength(3);
    expect(asked).toEqual([undefined, "4"]);
    expect(screen.queryByRole("button", { name: "Older" })).toBeNull();
  });

  it("says so where the chosen cell, or nothing at all, was ever changed", async () => {
    show("deadline");
    expect(await screen.findByText("What the selected cell shows was never changed by anyone.")).toBeTruthy();
    pages = [{ lists: [], older: null }];
    show(null);
    expect(await screen.findByText("Nothing has happened to it since it came into the plan.")).toBeTruthy();
  });
});
