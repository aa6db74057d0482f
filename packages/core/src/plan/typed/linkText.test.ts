import fc from "fast-check";
import { networks, planOf } from "../../testing/plans.ts";
import { applyChanges } from "../applyChanges.ts";
import { linkTexts, readLinks } from "./linkText.ts";
import { fromBundle, type Plan } from "../plan.ts";
import type { Link } from "../schema.ts";

const work = (id: string, name: string) => ({ id, name, durationMinutes: 480 });
const plan = (links: Link[] = []): Plan =>
  fromBundle(
    planOf(
      [
        work("a", "Dig trench"),
        work("b", "Dig pit"),
        work("c", "Pour"),
        work("d", "Pour"),
        work("e", "Open; to all"),
        work("f", "Pump water"),
      ],
      links,
    ),
  );
const key = (n: number): string => `k${n}`;

/** The links that typing comes to. */
const typed = (text: string, from = plan()): Link[] | string => {
  const read = readLinks(from, "f", text, key);
  return "fault" in read
    ? read.fault
    : [...applyChanges(from, read.changes).plan.links.values()].filter(({ to }) => to === "f");
};

describe("links as they are typed", () => {
  it.each<[string, Omit<Link, "to">[]]>([
    ["Dig trench", [{ from: "a" }]],
    ["dig t", [{ from: "a" }]],
    ["with Dig pit", [{ from: "b", type: "SS" }]],
    ["Ends with dig pit", [{ from: "b", type: "FF" }]],
    ["ends as Dig pit starts", [{ from: "b", type: "SF" }]],
    ["ends as dig pit", [{ from: "b", type: "SF" }]],
    ["Dig trench + 2d", [{ from: "a", lagMinutes: 960 }]],
    ["Dig trench+4h", [{ from: "a", lagMinutes: 240 }]],
    ["Dig trench - 0.5d", [{ from: "a", lagMinutes: -240 }]],
    ["Dig trench + 48h by the clock", [{ from: "a", lagMinutes: 2880, lagIn: "elapsed" }]],
    ["Dig trench + 2d by the clock", [{ from: "a", lagMinutes: 2880, lagIn: "elapsed" }]],
    ["Dig trench; with Dig pit + 1d;", [{ from: "a" }, { from: "b", type: "SS", lagMinutes: 480 }]],
    ["Dig trench; Dig trench", [{ from: "a" }]],
    ["#c; #d", [{ from: "c" }, { from: "d" }]],
    ["with “Open; to all” + 2d", [{ from: "e", type: "SS", lagMinutes: 960 }]],
    ["“open; to all”; Dig pit", [{ from: "e" }, { from: "b" }]],
    ["ends as “Dig pit” starts", [{ from: "b", type: "SF" }]],
    ["", []],
  ])("%j", (text, wanted) => {
    expect(typed(text)).toEqual(wanted.map((link) => ({ ...link, to: "f" })));
  });

  it.each<[string, RegExp]>([
    ["Paint", /There is no activity “Paint”/],
    ["Dig", /could be Dig pit, Dig trench; write which/],
    ["Pour", /could be #c, #d; write which/],
    ["“Dig”", /There is no activity “Dig”/],
    ["#zzz", /There is no activity “#zzz”/],
    ["Pump water", /cannot come after itself/],
    ["Dig trench + 3x", /is no duration/],
    ["with", /There is no activity “with”/],
  ])("%j is refused, and it is said why", (text, words) => {
    expect(typed(text)).toMatch(words);
  });

  it("changes only what differs: a link that stays keeps its key, one that is left out goes", () => {
    const from = plan([
      { from: "a", to: "f" },
      { from: "b", to: "f", lagMinutes: 480 },
      { from: "a", to: "b" },
    ]);
    expect(readLinks(from, "f", "Dig trench; Dig pit + 2d", key)).toEqual({
      changes: [
        { type: "removeRow", table: "links", key: "2" },
        { type: "addRow", table: "links", key: "k0", row: { from: "b", to: "f", lagMinutes: 960 } },
      ],
    });
    expect(readLinks(from, "f", "dig pit +1d; Dig trench", key)).toEqual({ changes: [] });
  });

  it("what is written reads back as the same links, whatever the names are", () => {
    const names = fc.array(
      fc.constantFrom(
        "Dig",
        "Dig (Works)",
        "“Dig”",
        "Dig; “so called”",
        "dig",
        "with care",
        "A; B",
        "Lift - 2d",
        "#7",
        "Pump starts",
        "",
        "Über",
        "Ends with a bang",
        "3",
      ),
      { minLength: 14, maxLength: 14 },
    );
    fc.assert(
      fc.property(networks({ calendars: ["std"] }), names, (bundle, given) => {
        const from = fromBundle({
          ...bundle,
          activities: bundle.activities.map((activity, i) => ({ ...activity, name: given[i % given.length]! })),
        });
        for (const [id, text] of linkTexts(from)) {
          const read = readLinks(from, id, text, key);
          if ("fault" in read) throw new Error(`${text}: ${read.fault}`);
          // Links that stand twice are said once; none is added, none but a double removed.
          expect(read.changes.filter(({ type }) => type === "addRow")).toEqual([]);
          const distinct = (of: Plan): number =>
            new Set(
              [...of.links.values()].map(({ from: begin, to, type = "FS", lagMinutes = 0, lagIn = "successor" }) =>
                [begin, to, type, lagMinutes, lagMinutes === 0 ? "" : lagIn].join(" "),
              ),
            ).size;
          expect(distinct(applyChanges(from, read.changes).plan)).toBe(distinct(from));
        }
      }),
      { numRuns: 200 },
    );
  });
});
