import fc from "fast-check";
import { activityNames, CallNames, couldBe, partsOf } from "./callNames.ts";

const TREE = [
  { id: "n", name: "North chamber" },
  { id: "s", name: "South chamber" },
  { id: "n1", name: "Dig", parent: "n" },
  { id: "s1", name: "Dig", parent: "s" },
  { id: "s2", name: "Pour", parent: "s" },
  { id: "s2a", name: "Check", parent: "s2" },
  { id: "n2", name: "Pour", parent: "n" },
  { id: "n2a", name: "Check", parent: "n2" },
  { id: "t1", name: "Lift", parent: "s" },
  { id: "t2", name: "lift ", parent: "s" },
];

describe("what things are called", () => {
  const names = activityNames(TREE);

  it.each([
    ["n", "North chamber"],
    ["n1", "Dig (North chamber)"],
    ["s1", "Dig (South chamber)"],
    ["n2a", "Check (Pour, North chamber)"],
    ["s2a", "Check (Pour, South chamber)"],
    ["t1", "#t1"],
  ])("%s is called %s, and found by that", (id, call) => {
    expect([names.of(id), names.find(call.toLowerCase().replace("#T1", "#t1"))]).toEqual([call, { id }]);
  });

  it.each([
    ["dig", ["Dig (North chamber)", "Dig (South chamber)"]],
    ["dig (n", "n1"],
    ["nor", "n"],
    ["lift", ["#t1", "#t2"]],
    ["paint", []],
    ["#paint", []],
  ])("%s names %j", (text, wanted) => {
    expect(names.find(text)).toEqual(typeof wanted === "string" ? { id: wanted } : { among: wanted });
  });

  it("a name that is really borne stays that one's alone", () => {
    const borne = new CallNames([
      { id: "a", name: "Dig (South)" },
      { id: "b", name: "Dig", apart: () => ["South", "Yard"] },
      { id: "c", name: "Dig", apart: () => ["North"] },
    ]);
    expect(["a", "b", "c"].map((id) => borne.of(id))).toEqual(["Dig (South)", "Dig (South, Yard)", "Dig (North)"]);
    expect(borne.find("dig (south)")).toEqual({ id: "a" });
  });

  it("tells a few of many", () => {
    expect(couldBe("x", ["a", "b"])).toBe("“x” could be a, b; write which.");
    expect(couldBe("x", ["a", "b", "c", "d", "e", "f"])).toBe("“x” could be a, b, c, d or 2 others; write which.");
  });

  it("every thing has a call that finds it and it alone, whatever they are named", () => {
    const word = fc.constantFrom("Dig", "dig", "Dig (Works)", "Works", "#a1", "“Dig”", "A; B", "", " Dig ");
    const things = fc.array(fc.record({ name: word, under: fc.nat({ max: 20 }) }), { minLength: 1, maxLength: 14 });
    fc.assert(
      fc.property(things, (given) => {
        const tree = given.map(({ name, under }, i) => ({ id: `a${i}`, name, parent: under < i ? `a${under}` : null }));
        const all = activityNames(tree, { odd: /[;#“”]/ });
        for (const { id } of tree) expect(all.findWhole(all.of(id))).toEqual({ id });
      }),
    );
  });
});

it("texts are parted at ;, not within “…”", () => {
  expect(partsOf(" a; “b; c” ;; d “e")).toEqual(["a", "“b; c”", "d “e"]);
});
