/** @jest-environment jsdom */
import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { show } from "../testing/fakePage.tsx";
import { Rates, readPersonRate, type Rate } from "./Rates.tsx";
import { put } from "./testing/planStage.tsx";

let now: readonly Rate[] = [];

function Stage({ first, digits = 2 }: { first: readonly Rate[]; digits?: number }) {
  const [rates, setRates] = useState(first);
  now = rates;
  return <Rates rates={rates} onChange={setRates} minorDigits={digits} currency="EUR" disabled={false} />;
}
const TWO: readonly Rate[] = [
  { from: "2000-01-01", perHourMinor: 6000 },
  { from: "2027-01-01", perHourMinor: 6450 },
];

describe("a rate as it is typed", () => {
  it.each([
    ["64.50", 2, true, { from: "2000-01-01", perHourMinor: 6450 }],
    ["64.50", 2, false, null],
    ["64,5 from 1 Jan 2027", 2, false, { from: "2027-01-01", perHourMinor: 6450 }],
    ["64 from 1 Jan", 2, false, { from: "2026-01-01", perHourMinor: 6400 }],
    ["640 from 1 Jan 2027", 0, false, { from: "2027-01-01", perHourMinor: 640 }],
    ["6.4 from 1 Jan 2027", 0, false, null],
    ["6.405 from 1 Jan 2027", 3, false, { from: "2027-01-01", perHourMinor: 6405 }],
    ["much from 1 Jan 2027", 2, false, null],
    ["64 from some day", 2, true, null],
  ])("%s, with %i digits, the first: %s", (text, digits, isFirst, rate) => {
    expect(readPersonRate(text, digits, isFirst, "2026")).toEqual(rate);
  });
});

describe("what an hour of someone costs", () => {
  it("begins with one that needs no day, and goes on in the order of the days", async () => {
    show(<Stage first={[]} />);
    await put("Add a rate", "60");
    await put("Add a rate", "70 from 1 Jul 2027");
    await put("Add a rate", "64.50 from 1 Jan 2027");
    expect(now).toEqual([...TWO, { from: "2027-07-01", perHourMinor: 7000 }]);
    expect(screen.getByLabelText<HTMLInputElement>("Rate from 1 Jan 2027").value).toBe("64.50");
  });

  it("has one rate from a day", async () => {
    show(<Stage first={TWO} />);
    await put("Add a rate", "80 from 1 Jan 2027");
    expect(screen.getByRole("alert").textContent).toBe("There is a rate from that day already.");
    await put("Rate 2 from", "1 Jan 2000");
    expect(screen.getAllByRole("alert").at(-1)!.textContent).toBe("There is a rate from that day already.");
    expect(now).toEqual(TWO);
  });

  it("is put in order when a day is changed", async () => {
    show(<Stage first={TWO} />);
    await put("Rate 1 from", "1 Feb 2028");
    expect(now.map(({ from }) => from)).toEqual(["2027-01-01", "2028-02-01"]);
  });

  it("says what an amount and a day look like", async () => {
    show(<Stage first={TWO} digits={0} />);
    await put("Rate from 1 Jan 2027", "64.50");
    expect(screen.getByRole("alert").textContent).not.toBe("");
    await put("Add a rate", "a lot");
    expect(screen.getAllByRole("alert").at(-1)!.textContent).toBe("Write 64.50 from 1 Jan 2027.");
    expect(now).toEqual(TWO);
  });

  it("is taken away again", async () => {
    show(<Stage first={TWO} />);
    await userEvent.click(screen.getByRole("button", { name: "Remove the rate from 1 Jan 2000" }));
    expect(now).toEqual([TWO[1]]);
  });
});
