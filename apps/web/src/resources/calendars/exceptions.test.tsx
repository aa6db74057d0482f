/** @jest-environment jsdom */
import type { Calendar } from "@chronometra/core";
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { listen, Refusal, show } from "../../testing/fakePage.tsx";
import { put } from "../testing/planStage.tsx";
import { Exceptions, HolidayChooser } from "./Exceptions.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

type Exception = NonNullable<Calendar["exceptions"]>[number];
let now: readonly Exception[] = [];

function Stage({ first = [], leave = false }: { first?: readonly Exception[]; leave?: boolean }) {
  const [exceptions, setExceptions] = useState(first);
  now = exceptions;
  return (
    <>
      <Exceptions exceptions={exceptions} onChange={setExceptions} year={2026} leave={leave} />
      <HolidayChooser exceptions={exceptions} onChange={setExceptions} year={2026} />
    </>
  );
}
const closed = (from: string, to = from, label?: string): Exception => ({
  from,
  to,
  shifts: [],
  ...(label === undefined ? {} : { label }),
});

describe("days that differ from the week", () => {
  it("are added closed, and may be given hours and a label", async () => {
    show(<Stage />);
    await put("Add an exception", "24 Dec 2026 to 3 Jan 2027: shutdown");
    expect(now).toEqual([closed("2026-12-24", "2027-01-03", "shutdown")]);
    await put("Add an exception", "2 May: training");
    await put(`Worked, row ${now.length}`, "8-12");
    await put(`What for, row ${now.length}`, "");
    expect(now.at(-1)).toEqual({ from: "2026-05-02", to: "2026-05-02", shifts: [["08:00", "12:00"]] });
  });

  it("keep what they were where what is typed is no day or no shift", async () => {
    show(<Stage first={[closed("2026-05-02", "2026-05-02", "training")]} />);
    await put("From, row 1", "a day");
    expect(screen.getByRole("alert").textContent).not.toBe("");
    await put("Worked, row 1", "12-8");
    expect(screen.getAllByRole("alert").at(-1)!.textContent).toMatch(/does not end after it begins/);
    expect(now).toEqual([closed("2026-05-02", "2026-05-02", "training")]);
    await userEvent.click(screen.getByRole("button", { name: "Remove training" }));
    expect(now).toEqual([]);
  });

  it("that are someone's leave are always closed", () => {
    show(<Stage leave first={[closed("2026-05-02")]} />);
    expect(screen.getByRole("table", { name: "Leave" })).toBeTruthy();
    expect(screen.queryByLabelText("Worked, row 1")).toBeNull();
  });
});

describe("public holidays", () => {
  const EASTER = { from: "2026-04-06", to: "2026-04-06", name: "Easter Monday" };
  const MAY = { from: "2026-05-01", to: "2026-05-01", name: "Labour Day" };
  const worked: Exception = { from: "2026-05-01", to: "2026-05-03", shifts: [["08:00", "12:00"]], label: "hurry" };

  it("are fetched for a region, and told", async () => {
    const sent = listen(({ to }) =>
      to === "GET /api/holidays"
        ? [{ code: "XX", name: "Xanthia", regions: [{ code: "N", name: "North" }] }]
        : [EASTER, MAY],
    );
    show(<Stage first={[worked]} />);
    await userEvent.selectOptions(await screen.findByLabelText("Country"), await screen.findByText("Xanthia"));
    await userEvent.selectOptions(screen.getByLabelText("Region"), "North");
    await userEvent.click(screen.getByRole("button", { name: "Add them" }));
    await waitFor(() => expect(now).toHaveLength(3));
    expect(sent.at(-1)!.to).toBe("GET /api/holidays/XX-N/2026/2028");
    expect(toast).toHaveBeenCalledWith(
      "2 holidays added; look at them, and remove what does not hold for you. Worked as you said it stays: 1 May 2026 (Labour Day).",
    );
  });

  it("that cannot be fetched leave all as it was, and say why", async () => {
    listen(({ to }) =>
      to === "GET /api/holidays"
        ? [{ code: "XX", name: "Xanthia", regions: [] }]
        : new Refusal("There are no holidays of that place."),
    );
    show(<Stage />);
    await userEvent.selectOptions(await screen.findByLabelText("Country"), await screen.findByText("Xanthia"));
    await userEvent.click(screen.getByRole("button", { name: "Add them" }));
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith("There are no holidays of that place."));
    expect(now).toEqual([]);
  });
});
