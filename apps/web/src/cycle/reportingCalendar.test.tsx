/** @jest-environment jsdom */
import type { ReportingCalendar as Calendar } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../shared/messages/toast.ts";
import { listen, Refusal, show, type Sent } from "../testing/fakePage.tsx";
import { ReportingCalendar } from "./ReportingCalendar.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

type Period = Calendar["periods"][number];
const period = (number: number, state: Period["state"], dataDate: string, from: string): Period => ({
  number,
  from,
  dataDate,
  issueBy: `${dataDate}T12:00`,
  state,
  issued: 2,
  locked: 1,
});
const LOCKED = period(1, "locked" as Period["state"], "2026-01-30", "2026-01-01");
const OPEN = period(2, "open", "2026-02-27", "2026-01-31");
const NEXT = period(3, "planned", "2026-03-27", "2026-02-28");
const AFTER = period(4, "planned", "2026-04-24", "2026-03-28");

const server = (periods: readonly Period[], write: (sent: Sent) => unknown = () => ({ periods })) => {
  const sent = listen((each) => (each.to === "GET /api/periods" ? { periods } : write(each)));
  return () =>
    sent.flatMap(({ to, body }) =>
      to === "PUT /api/periods/planned" ? [(body as { periods: unknown[] }).periods] : [],
    );
};
const rowOf = async (number: number) =>
  within(
    (await screen.findAllByRole("cell", { name: String(number) }))
      .find((cell) => cell.matches(":first-child"))!
      .closest("tr")!,
  );
const plain = ({ dataDate, issueBy }: Period) => ({ dataDate, issueBy });

describe("the reporting calendar", () => {
  it("shows what was, the open period and those to come; only these are changed", async () => {
    server([LOCKED, OPEN, NEXT]);
    show(<ReportingCalendar mayPlan />);
    expect((await rowOf(2)).getByText("open")).toBeTruthy();
    expect((await rowOf(2)).queryByRole("textbox")).toBeNull();
    expect((await rowOf(1)).queryByRole("button", { name: /Remove/ })).toBeNull();
    expect((await rowOf(3)).getByLabelText<HTMLInputElement>("Data date of period 3").value).toBe("27 Mar 2026");
    // Of a period that is to come nothing is issued.
    expect((await rowOf(3)).queryByText("2")).toBeNull();
  });

  it("moves the day of issue along with a data date that would come after it", async () => {
    const put = server([OPEN, NEXT, AFTER]);
    show(<ReportingCalendar mayPlan />);
    const field = await screen.findByLabelText("Data date of period 3");
    await userEvent.clear(field);
    await userEvent.type(field, "31 Mar 2026{Enter}");
    await waitFor(() => expect(put()).toHaveLength(1));
    expect(put()[0]).toEqual([{ dataDate: "2026-03-31", issueBy: "2026-03-31T12:00" }, plain(AFTER)]);
  });

  it("keeps the hour of issue when its day is changed", async () => {
    const put = server([OPEN, { ...NEXT, issueBy: "2026-03-30T09:30" }]);
    show(<ReportingCalendar mayPlan />);
    const field = await screen.findByLabelText("Day of issue of period 3");
    await userEvent.clear(field);
    await userEvent.type(field, "1 Apr 2026{Enter}");
    await waitFor(() => expect(put()).toEqual([[{ dataDate: "2026-03-27", issueBy: "2026-04-01T09:30" }]]));
  });

  it("plans six ahead after the last, which can be taken back", async () => {
    const put = server([OPEN, NEXT]);
    show(<ReportingCalendar mayPlan />);
    await userEvent.selectOptions(await screen.findByLabelText("How often"), "week, on Friday");
    await userEvent.click(screen.getByRole("button", { name: "Plan ahead" }));
    await waitFor(() => expect(put()).toHaveLength(1));
    expect(put()[0]!.slice(0, 3)).toEqual([
      plain(NEXT),
      { dataDate: "2026-04-03", issueBy: "2026-04-07T12:00" },
      { dataDate: "2026-04-10", issueBy: "2026-04-14T12:00" },
    ]);
    expect(put()[0]).toHaveLength(7);
    const [, { action }] = (toast as unknown as jest.Mock).mock.lastCall as [
      string,
      { action: { onClick: () => void } },
    ];
    action.onClick();
    await waitFor(() => expect(put()[1]).toEqual([plain(NEXT)]));
  });

  it("takes one out, and says why where that is refused", async () => {
    const put = server([OPEN, NEXT, AFTER], () => new Refusal("Period 3 was opened meanwhile."));
    show(<ReportingCalendar mayPlan />);
    await userEvent.click(await screen.findByRole("button", { name: "Remove period 3" }));
    expect(await screen.findByText("Period 3 was opened meanwhile.")).toBeTruthy();
    expect(put()).toEqual([[plain(AFTER)]]);
  });

  it("says how the first begins where there is none yet, and is only read by others", async () => {
    server([]);
    show(<ReportingCalendar mayPlan={false} />);
    await screen.findByText(/No period yet/);
    expect(screen.queryByRole("button", { name: "Plan ahead" })).toBeNull();
  });
});
