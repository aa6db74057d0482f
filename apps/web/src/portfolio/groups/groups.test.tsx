/** @jest-environment jsdom */
import type { Groups, Portfolio, ProjectField, ProjectLine } from "@chronometra/contract";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../../shared/messages/toast.ts";
import { listen, Refusal, show, type Sent } from "../../testing/fakePage.tsx";
import { FieldsPart } from "./FieldsPart.tsx";
import { ProgrammesPart } from "./ProgrammesPart.tsx";
import { ThresholdsPart } from "./ThresholdsPart.tsx";
import { QualityLimitsPart } from "./QualityLimitsPart.tsx";

jest.mock("../../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const server = (answer: (sent: Sent) => unknown = () => ({ ok: true })) => {
  const all = listen(answer);
  return (to: string) => all.filter((sent) => sent.to === to).map(({ body }) => body);
};
const put = async (label: string, text: string): Promise<void> => {
  const field = screen.getByLabelText(label);
  await userEvent.clear(field);
  await userEvent.type(field, `${text}{Enter}`);
};

describe("fields that every project has", () => {
  const PRIORITY: ProjectField = { id: "f1", name: "Priority", type: "choice", choices: ["high", "low"] };
  const FIELDS = "PUT /api/portfolio/fields";

  it("are added with their type, choices each once", async () => {
    const sent = server();
    show(<FieldsPart portfolio={{ fields: [], projects: [] }} />);
    expect(screen.getByText(/^None yet/)).toBeTruthy();
    await userEvent.type(screen.getByLabelText("Name"), " Priority ");
    await userEvent.selectOptions(screen.getByLabelText("Type"), "one of a list");
    await userEvent.type(screen.getByLabelText("Choices, by commas"), "high, low,, high");
    await userEvent.click(screen.getByRole("button", { name: "Add" }));
    await waitFor(() => expect(sent(FIELDS)).toHaveLength(1));
    expect(sent(FIELDS)[0]).toEqual({
      fields: [{ id: expect.any(String), name: "Priority", type: "choice", choices: ["high", "low"] }],
      seen: [],
    });
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>("Name").value).toBe(""));
  });

  it("are renamed and removed beside the others", async () => {
    const sent = server();
    const sponsor: ProjectField = { id: "f2", name: "Sponsor", type: "text" };
    show(<FieldsPart portfolio={{ fields: [PRIORITY, sponsor], projects: [] }} />);
    await put("Name of Priority", " ");
    expect(screen.getByRole("alert").textContent).toBe("A field needs a name.");
    await put("Name of Priority", "Rank");
    await waitFor(() =>
      expect(sent(FIELDS)).toMatchObject([
        { fields: [{ ...PRIORITY, name: "Rank" }, sponsor], seen: [PRIORITY, sponsor] },
      ]),
    );
    await userEvent.click(screen.getAllByRole("button", { name: "Remove" })[0]!);
    await waitFor(() => expect(sent(FIELDS)[1]).toEqual({ fields: [sponsor], seen: [PRIORITY, sponsor] }));
  });

  it("that say something in a project go only after they were asked about", async () => {
    const sent = server();
    const projects = [{ values: { f1: "high" } }, { values: {} }] as unknown as ProjectLine[];
    show(<FieldsPart portfolio={{ fields: [PRIORITY], projects }} />);
    expect(screen.getByText(/in 1 project$/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Remove" }));
    expect(screen.getByText(/1 project says something in it/)).toBeTruthy();
    expect(sent(FIELDS)).toEqual([]);
    await userEvent.click(screen.getByRole("button", { name: "Remove it with what it says" }));
    await waitFor(() => expect(sent(FIELDS)).toEqual([{ fields: [], seen: [PRIORITY] }]));
  });

  it("have choices that are renamed, put in order, added and removed", async () => {
    const sent = server();
    show(<FieldsPart portfolio={{ fields: [PRIORITY], projects: [] }} />);
    await userEvent.click(screen.getByRole("button", { name: "Choices of Priority" }));
    const dialog = within(screen.getByRole("dialog", { name: "Choices of Priority" }));
    const save = dialog.getByRole<HTMLButtonElement>("button", { name: "Save" });
    await userEvent.click(dialog.getByRole("button", { name: "Add a choice" }));
    expect(dialog.getByRole("alert").textContent).toBe("Each choice needs a name.");
    await userEvent.type(dialog.getByLabelText("Choice 3"), "low");
    expect(dialog.getByRole("alert").textContent).toBe("“low” is there twice.");
    expect(save.disabled).toBe(true);
    await userEvent.clear(dialog.getByLabelText("Choice 3"));
    await userEvent.type(dialog.getByLabelText("Choice 3"), "middle");
    await userEvent.click(dialog.getByRole("button", { name: "Choice 3 earlier" }));
    await userEvent.clear(dialog.getByLabelText("Choice 1"));
    await userEvent.type(dialog.getByLabelText("Choice 1"), "first");
    await userEvent.click(save);
    await waitFor(() =>
      expect(sent(FIELDS)).toEqual([
        {
          fields: [{ ...PRIORITY, choices: ["first", "middle", "low"] }],
          seen: [PRIORITY],
          renamed: [{ field: "f1", from: "high", to: "first" }],
        },
      ]),
    );
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("are ready to be added, those that are not there yet", async () => {
    const sent = server();
    show(<FieldsPart portfolio={{ fields: [PRIORITY], projects: [] }} />);
    expect(screen.queryByRole("button", { name: "Priority" })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Sponsor" }));
    await waitFor(() =>
      expect(sent(FIELDS)[0]).toMatchObject({ fields: [PRIORITY, { name: "Sponsor", type: "person" }] }),
    );
  });

  it("that are refused keep what was typed, and say why", async () => {
    server(() => new Refusal("There is a field “Priority” already."));
    show(<FieldsPart portfolio={{ fields: [PRIORITY], projects: [] }} />);
    await userEvent.type(screen.getByLabelText("Name"), "priority");
    await userEvent.click(screen.getByRole("button", { name: "Add" }));
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith("There is a field “Priority” already."));
    expect(screen.getByLabelText<HTMLInputElement>("Name").value).toBe("priority");
  });
});

describe("limits", () => {
  const HOUSE = {
    ...{ spiBelow: 0.9, cpiBelow: null, spitBelow: null, driftOver: null, movedOver: null, overrunOver: null },
    deadlines: true,
  };
  const portfolio = (own: object | null) =>
    ({
      thresholds: HOUSE,
      programmes: [
        { id: "c", name: "Coast", parent: null, thresholds: own },
        { id: "b", name: "Basin", parent: "c", thresholds: null },
      ],
    }) as unknown as Portfolio;
  const spi = (): HTMLInputElement => screen.getByLabelText<HTMLInputElement>("SPI below");

  it("are the house's, until a group is given its own, which begin with those it had", async () => {
    const sent = server();
    show(<ThresholdsPart portfolio={portfolio(null)} />);
    await put("SPI below", "0.95");
    await waitFor(() => expect(sent("PUT /api/portfolio/thresholds")).toEqual([{ ...HOUSE, spiBelow: 0.95 }]));
    await userEvent.selectOptions(screen.getByLabelText("Limits of"), "c");
    expect(screen.getByText("as for the whole portfolio")).toBeTruthy();
    expect([spi().disabled, spi().value]).toEqual([true, "0.9"]);
    await userEvent.click(screen.getByRole("button", { name: "Give it limits of its own" }));
    await waitFor(() => expect(sent("PUT /api/programmes/c/thresholds")).toEqual([{ thresholds: HOUSE }]));
  });

  it("of a group hold for those below it, and can be taken from above again", async () => {
    const sent = server();
    show(<ThresholdsPart portfolio={portfolio({ ...HOUSE, spiBelow: 0.8 })} />);
    await userEvent.selectOptions(screen.getByLabelText("Limits of"), "b");
    expect(screen.getByText("as for Coast")).toBeTruthy();
    expect(spi().value).toBe("0.8");
    await userEvent.selectOptions(screen.getByLabelText("Limits of"), "c");
    await put("SPI below", "0.85");
    await userEvent.click(screen.getByRole("button", { name: "Take them from above" }));
    await waitFor(() =>
      expect(sent("PUT /api/programmes/c/thresholds")).toEqual([
        { thresholds: { ...HOUSE, spiBelow: 0.85 } },
        { thresholds: null },
      ]),
    );
  });
});

describe("portfolios and programmes", () => {
  const PORTFOLIO = {
    programmes: [
      { id: "b", name: "Basin", parent: "c" },
      { id: "c", name: "Coast", parent: null },
    ],
    projects: [
      { id: "p", code: "P", name: "Pier", programme: "b", mayEdit: true },
      { id: "q", code: "Q", name: "Quay", programme: null, mayEdit: false },
    ],
  } as unknown as Portfolio;
  const GROUPS: Groups = {
    groups: [
      { id: "b", name: "Basin", parent: "c", manager: null },
      { id: "c", name: "Coast", parent: null, manager: { id: "t", name: "Tomas" } },
      { id: "d", name: "Dunes", parent: null, manager: null },
    ],
    managers: [{ id: "t", name: "Tomas" }],
    mayEdit: true,
  };

  it("stand in the order of their tree, and are renamed where they stand", async () => {
    const sent = server();
    show(<ProgrammesPart portfolio={PORTFOLIO} groups={GROUPS} />);
    expect(
      screen.getAllByLabelText(/^Name of (Basin|Coast)$/).map((field) => (field as HTMLInputElement).value),
    ).toEqual(["Coast", "Basin"]);
    await put("Name of Basin", "Inner basin");
    await waitFor(() => expect(sent("PUT /api/programmes/b")).toEqual([{ name: "Inner basin", parent: "c" }]));
  });

  it("become part of another, or of nothing; what would go round is refused", async () => {
    const sent = server(({ body }) =>
      (body as { parent?: string }).parent === "b" ? new Refusal("Coast lies above Basin.") : { ok: true },
    );
    show(<ProgrammesPart portfolio={PORTFOLIO} groups={GROUPS} />);
    await userEvent.selectOptions(screen.getByLabelText("Basin is part of"), "nothing");
    await waitFor(() => expect(sent("PUT /api/programmes/b")).toEqual([{ name: "Basin", parent: null }]));
    const coast = screen.getByLabelText("Coast is part of");
    await userEvent.selectOptions(coast, within(coast).getByRole("option", { name: "Basin" }));
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith("Coast lies above Basin."));
  });

  it("are put elsewhere among their like, given a manager, and removed where they are empty", async () => {
    const sent = server();
    const dunes = { id: "d", name: "Dunes", parent: null, thresholds: null };
    const programmes = [...PORTFOLIO.programmes, dunes];
    show(<ProgrammesPart portfolio={{ ...PORTFOLIO, programmes }} groups={GROUPS} />);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Move Coast up" }).disabled).toBe(true);
    await userEvent.click(screen.getByRole("button", { name: "Move Coast down" }));
    await userEvent.click(screen.getByRole("button", { name: "Move Dunes up" }));
    await waitFor(() =>
      expect([...sent("PUT /api/programmes/c"), ...sent("PUT /api/programmes/d")]).toEqual([
        { name: "Coast", parent: null, before: null },
        { name: "Dunes", parent: null, before: "c" },
      ]),
    );
    await userEvent.selectOptions(screen.getByLabelText("Who answers for Dunes"), "Tomas");
    await waitFor(() =>
      expect(sent("PUT /api/programmes/d").at(-1)).toEqual({ name: "Dunes", parent: null, manager: "t" }),
    );
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Remove Coast" }).disabled).toBe(true);
    await userEvent.click(screen.getByRole("button", { name: "Remove Dunes" }));
    await waitFor(() => expect(sent("DELETE /api/programmes/d")).toHaveLength(1));
  });

  it("take a project in, of those that one may change", async () => {
    const sent = server();
    show(<ProgrammesPart portfolio={PORTFOLIO} groups={GROUPS} />);
    expect(screen.getByLabelText<HTMLSelectElement>("Programme of Quay").disabled).toBe(true);
    await userEvent.selectOptions(screen.getByLabelText("Programme of Pier"), "none");
    await waitFor(() => expect(sent("PUT /api/projects/p/standing")).toEqual([{ programme: null }]));
  });

  it("are added; one that is refused keeps its name in the field", async () => {
    let calls = 0;
    const sent = server(() => (calls++ === 0 ? new Refusal("There is “Coast” already.") : { id: "n" }));
    show(<ProgrammesPart portfolio={{ ...PORTFOLIO, projects: [] }} groups={GROUPS} />);
    expect(screen.getByText(/^No project is here yet/)).toBeTruthy();
    const field = screen.getByLabelText<HTMLInputElement>("Name of a new portfolio or programme");
    await userEvent.type(field, "Coast");
    await userEvent.click(screen.getByRole("button", { name: "Add" }));
    await waitFor(() => expect(toast.error).toHaveBeenCalledWith("There is “Coast” already."));
    await userEvent.type(field, " north");
    await userEvent.click(screen.getByRole("button", { name: "Add" }));
    await waitFor(() => expect(field.value).toBe(""));
    expect(sent("POST /api/programmes").at(-1)).toEqual({ name: "Coast north" });
  });
});

describe("limits of the checks", () => {
  const LIMITS = "PUT /api/portfolio/quality-limits";

  it("are typed as percents where they are shares, and as they are where they are indices", async () => {
    const sent = server();
    show(<QualityLimitsPart limits={{ 5: 0.1 }} />);
    const fields = screen.getAllByLabelText<HTMLInputElement>(/^Limit of /);
    const own = fields.find(({ value }) => value === "10")!;
    await put(own.getAttribute("aria-label")!, "7,5");
    await waitFor(() => expect(sent(LIMITS)).toEqual([{ 5: 0.075 }]));
    await put(fields.at(-1)!.getAttribute("aria-label")!, "0.9");
    await waitFor(() => expect(sent(LIMITS)[1]).toEqual({ 5: 0.1, 14: 0.9 }));
  });

  it("emptied are the published ones again, which are shown", async () => {
    const sent = server();
    show(<QualityLimitsPart limits={{ 5: 0.1, silentDays: 21 }} />);
    const own = screen.getAllByLabelText<HTMLInputElement>(/^Limit of /).find(({ value }) => value === "10")!;
    await put(own.getAttribute("aria-label")!, " ");
    await waitFor(() => expect(sent(LIMITS)).toEqual([{ silentDays: 21 }]));
    expect(own.placeholder).toBe("5");
    await put("Days without news", "2.5");
    expect(screen.getByRole("alert").textContent).toBe("Write a whole number of days, as 14.");
    await put("Days without news", "30");
    await waitFor(() => expect(sent(LIMITS)[1]).toEqual({ 5: 0.1, silentDays: 30 }));
  });

  it("that are no numbers are not stored; why the server refuses one is shown beside it", async () => {
    const sent = server(() => new Refusal("A share lies between 0 and 100%."));
    show(<QualityLimitsPart limits={{}} />);
    const label = screen.getAllByLabelText(/^Limit of /)[0]!.getAttribute("aria-label")!;
    await put(label, "few");
    expect(screen.getByRole("alert").textContent).toBe("Write a number, as 5 or 0.95.");
    expect(sent(LIMITS)).toEqual([]);
    await put(label, "250");
    await waitFor(() => expect(screen.getByRole("alert").textContent).toBe("A share lies between 0 and 100%."));
  });
});
