/** @jest-environment jsdom */
import type { ChancesView } from "@chronometra/contract";
import type { Change, Risk } from "@chronometra/core";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { show } from "../testing/fakePage.tsx";
import { RisksPart } from "./RisksPart.tsx";

const STORM: Risk = {
  id: "r1",
  name: "Storm",
  probability: 0.3,
  effects: [{ activity: "dig", minutes: { low: 960, likely: 2400, high: 4800 } }],
  costMinor: { low: 100_000, likely: 200_000, high: 400_000 },
};
const VIEW = {
  currency: "EUR",
  minorDigits: 2,
  dayMinutes: 480,
  open: [
    { id: "dig", name: "Dig" },
    { id: "pour", name: "Pour" },
  ],
  bornOn: [],
  risks: [STORM],
} as unknown as ChancesView;

function part({ mayEdit = true, refuses = null as string | null, risks = [STORM] } = {}) {
  const sent: Change[] = [];
  const change = async (changes: readonly Change[]): Promise<string | null> => {
    if (refuses === null) sent.push(...changes);
    return refuses;
  };
  show(<RisksPart view={{ ...VIEW, risks }} mayEdit={mayEdit} change={change} />);
  return sent;
}
const form = (name: string) => within(screen.getByRole("form", { name }));
async function fill(name: string, fields: Record<string, string>): Promise<void> {
  for (const [label, text] of Object.entries(fields)) {
    const field = form(name).getByLabelText(label);
    await userEvent.clear(field);
    if (text !== "") await userEvent.type(field, text);
  }
}
const NEW = "A new risk";

describe("a plan's risks", () => {
  it("are read as a sentence", () => {
    part({ mayEdit: false });
    expect(
      screen.getByText(/^30.*: 2 to 10 d more on Dig, likeliest 5; 1.000 to 4.000 EUR, likeliest 2.000$/),
    ).toBeTruthy();
    expect(screen.queryByRole("form")).toBeNull();
    expect(screen.queryByRole("button", { name: "Remove Storm" })).toBeNull();
  });

  it("are added with what they add to activities; a second takes the days of the first", async () => {
    const sent = part({ risks: [] });
    expect(screen.getByText(/^None yet/)).toBeTruthy();
    await fill(NEW, { "What may happen": "Permit late", "Probability, %": "12,5" });
    await userEvent.type(form(NEW).getByLabelText("Activity it bears on"), "Dig");
    await fill(NEW, { "Dig longer, least": "1", "Dig longer, likeliest": "2", "Dig longer, most": "3.5" });
    await userEvent.type(form(NEW).getByLabelText("Another activity"), "Pour");
    expect(form(NEW).getByLabelText<HTMLInputElement>("Pour longer, most").value).toBe("3.5");
    await userEvent.click(form(NEW).getByRole("button", { name: "Add the risk" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    const minutes = { low: 480, likely: 960, high: 1680 };
    expect(sent[0]).toMatchObject({
      type: "addRow",
      table: "risks",
      row: {
        name: "Permit late",
        probability: 0.125,
        effects: [
          { activity: "dig", minutes },
          { activity: "pour", minutes },
        ],
      },
    });
    expect(sent[0]).not.toHaveProperty("row.costMinor");
    expect(form(NEW).getByLabelText<HTMLInputElement>("What may happen").value).toBe("");
  });

  it.each([
    ["no name", { "Probability, %": "30" }, /^Write what may happen/],
    ["no probability", { "What may happen": "Fog", "Probability, %": "0" }, /^Write the probability/],
    ["more than all", { "What may happen": "Fog", "Probability, %": "101" }, /^Write the probability/],
    ["nothing it bears on", { "What may happen": "Fog", "Probability, %": "30" }, /^Select an open activity/],
    [
      "costs that fall",
      {
        "What may happen": "Fog",
        "Probability, %": "30",
        "Extra cost, least": "9",
        "Extra cost, likeliest": "5",
        "Extra cost, most": "7",
      },
      /^Write three amounts that do not fall/,
    ],
  ])("with %s are not kept, and say what is wanting", async (_what, fields, why) => {
    const sent = part();
    await fill(NEW, fields as Record<string, string>);
    await userEvent.click(form(NEW).getByRole("button", { name: "Add the risk" }));
    expect(screen.getByRole("alert").textContent).toMatch(why);
    expect(sent).toEqual([]);
  });

  it("are changed where they stand; Escape leaves them as they were", async () => {
    const sent = part();
    await userEvent.click(screen.getByRole("button", { name: "Change Storm" }));
    const own = "Change Storm";
    expect(form(own).getByLabelText<HTMLInputElement>("Extra cost, likeliest").value).toBe("2000");
    await userEvent.type(form(own).getByLabelText("What may happen"), "y weather{Escape}");
    expect(screen.queryByRole("form", { name: own })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Change Storm" }));
    await fill(own, { "Extra cost, least": "", "Extra cost, likeliest": "", "Extra cost, most": "" });
    await userEvent.click(form(own).getByRole("button", { name: "Save the change" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({ type: "editRow", key: "r1", set: { name: "Storm", costMinor: null } });
  });

  it("that the plan refuses stay as typed, with why", async () => {
    part({ refuses: "there is no activity “dig”" });
    await userEvent.click(screen.getByRole("button", { name: "Remove Storm" }));
    expect((await screen.findByRole("alert")).textContent).toBe("there is no activity “dig”");
    await userEvent.click(screen.getByRole("button", { name: "Change Storm" }));
    await userEvent.click(form("Change Storm").getByRole("button", { name: "Save the change" }));
    await waitFor(() => expect(form("Change Storm").getByRole("alert").textContent).toBe("there is no activity “dig”"));
  });
});
