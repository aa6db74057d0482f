import { watchQuestionSchema } from "@chronometra/contract";
import { activitiesBehind, anyOf, costsBehind, timeBehind } from "./opens.ts";
import { questionIn } from "./questionWords.ts";

const questionOf = (address: string) =>
  watchQuestionSchema.parse(questionIn(new URL(address, "http://x").searchParams.get("q")!));

describe("what lies behind a figure", () => {
  it("is a question that can be asked, of the project and of all that holds", () => {
    const question = questionOf(activitiesBehind("p-1", anyOf("people", ["ann"]), anyOf("state", ["complete"])));
    expect(question.about).toBe("activities");
    expect(question.where).toEqual([
      [
        anyOf("project", ["p-1"]),
        anyOf("kind", ["work", "milestone", "levelOfEffort"]),
        anyOf("people", ["ann"]),
        anyOf("state", ["complete"]),
      ],
    ]);
  });

  it("of time and of costs lies in a span of days, of all the projects that the figure adds up", () => {
    const time = questionOf(timeBehind(["p-1", "p-2"], "2026-11-23", "2026-11-29", anyOf("person", ["ann"])));
    expect(time).toMatchObject({
      about: "time",
      where: [
        [
          anyOf("project", ["p-1", "p-2"]),
          { field: "date", is: "within", from: "2026-11-23", to: "2026-11-29" },
          anyOf("person", ["ann"]),
        ],
      ],
    });
    expect(
      questionOf(costsBehind("p-1", "1990-01-01", "2026-11-27", anyOf("category", ["steel & co", "100%"]))),
    ).toMatchObject({
      about: "costs",
      where: [[anyOf("project", ["p-1"]), { field: "date", is: "within" }, anyOf("category", ["steel & co", "100%"])]],
    });
  });
});
