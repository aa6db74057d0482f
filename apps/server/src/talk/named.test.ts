import fc from "fast-check";
import { callable, namedIn } from "./named.ts";

const people = callable([
  { id: "1", name: "Ann", login: "ann" },
  { id: "2", name: "Ann Marsh", login: "annm" },
  { id: "3", name: "Bo Lind", login: "bo" },
  { id: "4", name: "Bo Lind", login: "lind@example.org" },
]);
const named = (text: string): string[] => namedIn(text, people).map(({ id }) => id);

describe("who is named in a text", () => {
  it("is whoever’s whole name stands after an @, the longest there is, in any case", () => {
    expect(named("@Ann, look. @ann marsh: and you? @Anna is nobody, a mail to x@Ann.example neither")).toEqual([
      "1",
      "2",
    ]);
    expect(named("@Ann@Ann Marsh")).toEqual(["1"]);
    expect(named("(@Ann Marsh)\n@")).toEqual(["2"]);
  });

  it("tells people of one name apart by their sign-in, and guesses at none", () => {
    expect(people.map(({ as }) => as)).toEqual(["Ann", "Ann Marsh", "Bo Lind (bo)", "Bo Lind (lind@example.org)"]);
    expect(named("@Bo Lind")).toEqual([]);
    expect(named("@Bo Lind (lind@example.org)")).toEqual(["4"]);
  });

  it("is the same whatever stands around the names (law)", () => {
    fc.assert(
      fc.property(fc.string(), fc.shuffledSubarray(people), (noise, some) => {
        const text = some.map(({ as }) => `${noise.replaceAll("@", "")} @${as} `).join("");
        expect(new Set(namedIn(text, people).map(({ id }) => id))).toEqual(new Set(some.map(({ id }) => id)));
      }),
    );
  });
});
