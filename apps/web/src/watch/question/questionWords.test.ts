import { WATCH_FIELDS, watchConditionSchema, type WatchQuestion } from "@chronometra/contract";
import { readNumber } from "../../shared/words/amounts.ts";
import {
  choicesOf,
  CONDITIONS,
  conditionOf,
  fieldsOf,
  movingDateWords,
  questionIn,
  questionText,
  readMovingDate,
  valueWords,
} from "./questionWords.ts";

describe("days that move with today", () => {
  it.each([
    ["today", "today"],
    ["in 30 days", "today+30"],
    ["7 days ago", "today-7"],
    ["today + 3", "today+3"],
    ["today-2", "today-2"],
    ["24 Nov 2026", "2026-11-24"],
    ["2026-11-24", "2026-11-24"],
    ["in 0 days", "today"],
    ["soon", null],
    ["in x days", null],
  ])("%s is read as %s", (text, kept) => {
    expect(readMovingDate(text, "2026")).toBe(kept);
  });

  it.each(["today", "today+30", "today-7", "2026-11-24"])("%s is written so that it is read again", (kept) => {
    expect(readMovingDate(movingDateWords(kept), "2026")).toBe(kept);
  });
});

describe("a question in an address", () => {
  const question: WatchQuestion = {
    about: "activities",
    where: [[{ field: "name", is: "has", text: "Vär – 100 % „x“ 漢" }]],
    columns: ["name"],
    sort: [],
    group: null,
    pivot: null,
  };
  it("is the same again, whatever it looks for, and needs no escaping", () => {
    expect(questionText(question)).toMatch(/^[\w-]+$/);
    expect(questionIn(questionText(question))).toEqual(question);
  });
  it("is nothing where it was cut or typed over", () => {
    expect(questionIn("!!")).toBeNull();
    expect(questionIn(questionText(question).slice(0, -9))).toBeNull();
  });
});

describe("conditions", () => {
  it("of every field and every kind of it are ones the server takes", () => {
    for (const [about, fields] of Object.entries(WATCH_FIELDS)) {
      for (const [name, { type }] of Object.entries(fields))
        for (const [is] of CONDITIONS[type])
          expect([about, name, is, watchConditionSchema.safeParse(conditionOf(name, is)).success]).toEqual([
            about,
            name,
            is,
            true,
          ]);
    }
  });

  it("offer oneself and one's team among people, and own fields with their type", () => {
    const choices = {
      people: [{ id: "ann", name: "Ann" }],
      roles: ["diver"],
      projects: [],
      programmes: [],
      managers: [],
      categories: [],
      ownFields: [{ name: "Zone", type: "choice" as const, choices: ["north"] }],
    };
    const fields = fieldsOf("activities", choices);
    expect(choicesOf("people", fields["people"]!, choices).map(({ name }) => name)).toEqual(["me", "my team", "Ann"]);
    expect(fields["own:Zone"]).toEqual({ head: "Zone", type: "choice", choices: { north: "north" } });
    expect(fieldsOf("time", choices)["own:Zone"]).toBeUndefined();
  });
});

describe("values", () => {
  it("are read as people do", () => {
    expect([
      valueWords("hours", 90, 2),
      valueWords("amount", 123_456, 2),
      valueWords("days", 4, 2, "drift"),
      valueWords("days", -2, 2, "margin"),
      valueWords("days", 3.14, 2),
      valueWords("date", "2026-11-24", 2),
      valueWords("text", null, 2),
    ]).toEqual(["1.5 h", "1\u00a0235", "4 d late", "2 d short", "3.1 d", "24 Nov 2026", "–"]);
  });

  it("are numbers with a point or a comma between digits", () => {
    expect(["15", "-3", "0.5", "0,5", "1e3", "1.", "a"].map(readNumber)).toEqual([15, -3, 0.5, 0.5, null, null, null]);
  });
});
