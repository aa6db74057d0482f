/** @jest-environment jsdom */
import type { Exchange } from "@chronometra/core";
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, Refusal, show, someone, type Sent } from "../testing/fakePage.tsx";
import { ExchangeRates } from "./ExchangeRates.tsx";

const EUR: Exchange = {
  currency: "EUR",
  minorDigits: 2,
  rates: [{ currency: "JPY", from: "2026-01-01", rate: 0.0061 }],
};

function server(first: Exchange | null, write: (sent: Sent) => unknown = () => ({ ok: true })) {
  let kept = first;
  const all = listen((sent) => {
    if (sent.to === "GET /api/portfolio/exchange") return kept;
    const answer = write(sent);
    if (!(answer instanceof Refusal)) kept = (sent.body as { exchange: Exchange }).exchange;
    return answer;
  });
  return () => all.flatMap(({ to, body }) => (to.startsWith("PUT") ? [(body as { exchange: Exchange }).exchange] : []));
}
const put = async (label: string, text: string): Promise<void> => {
  const field = await screen.findByLabelText(label);
  await userEvent.clear(field);
  await userEvent.type(field, `${text}{Enter}`);
};

describe("exchange rates", () => {
  it("begin with the currency of the sums", async () => {
    const sent = server(null);
    show(<ExchangeRates />);
    await put("Currency of sums", "euro");
    expect(screen.getByRole("alert").textContent).toBe("Write a currency code of three letters, as EUR.");
    await put("Currency of sums", "eur");
    await waitFor(() => expect(sent()).toEqual([{ currency: "EUR", minorDigits: 2, rates: [] }]));
    expect(await screen.findByText(/No rate yet/)).toBeTruthy();
  });

  it("take the place of one of the same day, and are removed", async () => {
    const sent = server(EUR);
    show(<ExchangeRates />);
    await put("Add a rate", "jpy 0,007 from 1 Jan 2026");
    await waitFor(() => expect(sent()[0]?.rates).toEqual([{ currency: "JPY", from: "2026-01-01", rate: 0.007 }]));
    await put("Add a rate", "KWD = 3 since 1 Feb 2026");
    await waitFor(() => expect(sent()[1]?.rates).toHaveLength(2));
    await userEvent.click(await screen.findByRole("button", { name: "Remove the rate of JPY since 1 Jan 2026" }));
    await waitFor(() => expect(sent()[2]?.rates).toEqual([{ currency: "KWD", from: "2026-02-01", rate: 3 }]));
  });

  it.each([
    ["JPY 0", /^Write JPY/],
    ["JPY -1", /^Write JPY/],
    ["JPY some from 1 Jan", /^Write JPY/],
    ["EUR 1", /needs no rate/],
  ])("%s is refused, with what to do", async (text, why) => {
    const sent = server(EUR);
    show(<ExchangeRates />);
    await put("Add a rate", text);
    expect(screen.getByRole("alert").textContent).toMatch(why);
    expect(sent()).toEqual([]);
  });

  it("of another currency of sums begin from nothing", async () => {
    const sent = server(EUR);
    show(<ExchangeRates />);
    await put("Digits of sums", "7");
    expect(screen.getByRole("alert").textContent).toBe("Write 0 to 4.");
    await put("Currency of sums", "NOK");
    await waitFor(() => expect(sent()).toEqual([{ currency: "NOK", minorDigits: 2, rates: [] }]));
  });

  it("that the server refuses stay as they were, and say why", async () => {
    server(EUR, () => new Refusal("KWD is no currency of any project."));
    show(<ExchangeRates />);
    await put("Add a rate", "KWD 3 from 1 Jan 2026");
    expect((await screen.findAllByText("KWD is no currency of any project.")).length).toBeGreaterThan(0);
    expect(screen.queryByRole("cell", { name: "KWD" })).toBeNull();
  });

  it("are a controller's to write", async () => {
    server(EUR);
    show(<ExchangeRates />, { me: someone("reader") });
    expect((await screen.findByLabelText<HTMLInputElement>("Currency of sums")).disabled).toBe(true);
    expect(screen.queryByLabelText("Add a rate")).toBeNull();
    expect(screen.queryByRole("button", { name: /Remove/ })).toBeNull();
  });
});
