/** @jest-environment jsdom */
import type { PlanBundle } from "@chronometra/core";
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { toast } from "../shared/messages/toast.ts";
import { slipway } from "../plan/testing/plans.ts";
import { CategoriesPart, TeamsPart } from "./ListsPart.tsx";
import { OwnFieldsPart, readField } from "./OwnFieldsPart.tsx";
import { put, stagePlan } from "./testing/planStage.tsx";

jest.mock("../shared/messages/toast.ts", () => ({ toast: Object.assign(jest.fn(), { error: jest.fn() }) }));

const PEOPLED: PlanBundle = {
  ...slipway(),
  people: [
    { id: "ann", name: "Ann Berg" },
    { id: "bo", name: "Bo" },
    { id: "bob", name: "Bob" },
  ],
  costs: [
    { id: "k1", activity: "dig", category: "Crane", plannedMinor: 120_000 },
    { id: "k2", activity: "pour", category: "Crane", plannedMinor: 30_000 },
  ],
};
const only = <T,>(rows: ReadonlyMap<string, T>): T => [...rows.values()][0]!;
const rowOf = (field: string) => within(screen.getByLabelText(field).closest("tr")!);

describe("teams", () => {
  it("are made, and take members by their names or how these begin", async () => {
    const stage = stagePlan(PEOPLED, (props) => <TeamsPart {...props} />);
    await put("Add a team", "Divers");
    await put("Members of Divers", "ann; Bob; Ann Berg");
    await waitFor(() => expect(only(stage.plan.teams).members).toEqual(["ann", "bob"]));
    expect(screen.getByLabelText<HTMLInputElement>("Members of Divers").value).toBe("Ann Berg; Bob");
    expect(stage.said).toEqual(["The team Divers is made.", "Divers has new members."]);
  });

  it("say who is nobody, and keep what was typed until it is mended", async () => {
    const stage = stagePlan(PEOPLED, (props) => <TeamsPart {...props} />);
    await put("Add a team", "Divers");
    await put("Members of Divers", "Ann; Cy");
    expect(screen.getByRole("alert").textContent).toBe("“Cy” is nobody, or not one person only; write the whole name.");
    expect(screen.getByLabelText<HTMLInputElement>("Members of Divers").value).toBe("Ann; Cy");
    expect(only(stage.plan.teams).members).toEqual([]);
    await userEvent.type(screen.getByLabelText("Members of Divers"), "{Escape}");
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("take “Bo” for Bo, though Bob begins so too", async () => {
    const stage = stagePlan(PEOPLED, (props) => <TeamsPart {...props} />);
    await put("Add a team", "Riggers");
    await put("Members of Riggers", "bo");
    await waitFor(() => expect(only(stage.plan.teams).members).toEqual(["bo"]));
  });

  it("keep their names apart, in small letters and large, and are removed", async () => {
    const stage = stagePlan(PEOPLED, (props) => <TeamsPart {...props} />);
    await put("Add a team", "Divers");
    await put("Add a team", "  DIVERS ");
    expect(screen.getByRole("alert").textContent).toBe("There is “DIVERS” already.");
    await put("Name of Divers", "divers");
    await waitFor(() => expect(only(stage.plan.teams).name).toBe("divers"));
    await userEvent.click(screen.getByRole("button", { name: "Remove divers" }));
    await waitFor(() => expect(stage.plan.teams.size).toBe(0));
  });

  it("are only read by whoever may not change the plan", () => {
    stagePlan(PEOPLED, (props) => <TeamsPart {...props} />, { mayEdit: false });
    expect(screen.queryByLabelText("Add a team")).toBeNull();
    expect(screen.queryByRole("button", { name: /Remove/ })).toBeNull();
  });
});

describe("cost categories", () => {
  it("are those that costs name, with what is planned in them", () => {
    stagePlan(PEOPLED, (props) => <CategoriesPart {...props} />);
    expect(rowOf("Name of Crane").getByText("2")).toBeTruthy();
    expect(rowOf("Name of Crane").getByText(/^1.500$/)).toBeTruthy();
    // What costs stand in is not taken away from them.
    expect(screen.queryByRole("button", { name: "Remove Crane" })).toBeNull();
  });

  it("renamed, take their costs along", async () => {
    const stage = stagePlan(PEOPLED, (props) => <CategoriesPart {...props} />);
    await put("Name of Crane", "Lifting");
    await waitFor(() =>
      expect([...stage.plan.costs.values()].map(({ category }) => category)).toEqual(["Lifting", "Lifting"]),
    );
    expect(stage.said).toEqual(["Crane is called Lifting now."]);
  });

  it("without costs are kept, and go again", async () => {
    const stage = stagePlan(PEOPLED, (props) => <CategoriesPart {...props} />);
    await put("Add a category", "Travel");
    await waitFor(() => expect(only(stage.plan.categories).name).toBe("Travel"));
    await userEvent.click(screen.getByRole("button", { name: "Remove Travel" }));
    await waitFor(() => expect(stage.plan.categories.size).toBe(0));
  });

  it("do not take a name that costs have", async () => {
    const stage = stagePlan(PEOPLED, (props) => <CategoriesPart {...props} />);
    await put("Add a category", "Travel");
    await put("Name of Travel", "crane");
    expect(screen.getByRole("alert").textContent).toBe("There is “crane” already.");
    expect(only(stage.plan.categories).name).toBe("Travel");
  });
});

describe("a plan's own fields", () => {
  it("are typed with or without choices", () => {
    expect(readField("Zone")).toEqual({ name: "Zone", choices: [] });
    expect(readField(" Zone : North, South; North,")).toEqual({ name: "Zone", choices: ["North", "South"] });
    expect(readField("Zone: a:b")).toEqual({ name: "Zone", choices: ["a:b"] });
  });

  it("are made as what was typed, and change what they hold", async () => {
    const stage = stagePlan(PEOPLED, (props) => <OwnFieldsPart {...props} />);
    await put("Add a field", "Zone: North, South");
    await waitFor(() => expect(only(stage.plan.fields)).toMatchObject({ type: "choice", choices: ["North", "South"] }));
    await userEvent.selectOptions(screen.getByLabelText("What Zone holds"), "number");
    await waitFor(() => expect(only(stage.plan.fields)).toMatchObject({ type: "number" }));
    expect(only(stage.plan.fields).choices).toBeUndefined();
    expect(screen.queryByLabelText("Choices of Zone")).toBeNull();
    await userEvent.selectOptions(screen.getByLabelText("What Zone holds"), "choice");
    await put("Choices of Zone", " ; ");
    expect(screen.getByRole("alert").textContent).toBe("It needs at least one choice.");
    await put("Choices of Zone", "East; West; East");
    await waitFor(() => expect(only(stage.plan.fields).choices).toEqual(["East", "West"]));
  });

  it("keep what they hold while something else is written in them, and say what to do", async () => {
    const stage = stagePlan(PEOPLED, (props) => (
      <>
        <OwnFieldsPart {...props} />
        <button
          type="button"
          onClick={() =>
            void props.change(
              [{ type: "setOwnValue", activity: "dig", field: [...props.plan.fields.keys()][0]!, value: "deep" }],
              "written",
            )
          }
        >
          Write
        </button>
      </>
    ));
    await put("Add a field", "Note");
    await userEvent.click(screen.getByRole("button", { name: "Write" }));
    expect(await screen.findByText("1 activity")).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText("What Note holds"), "number");
    await waitFor(() =>
      expect(toast.error).toHaveBeenCalledWith(expect.stringMatching(/Clear what is written in the field first\.$/)),
    );
    expect(only(stage.plan.fields).type).toBe("text");
    await userEvent.click(screen.getByRole("button", { name: "Remove Note" }));
    await waitFor(() => expect(stage.plan.fields.size).toBe(0));
    // With the field goes what was written in it.
    expect([...stage.plan.ownValues.values()].filter((values) => Object.keys(values).length > 0)).toEqual([]);
  });
});
