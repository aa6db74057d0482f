import type { NoticeKind } from "@chronometra/contract";
import { digestOf, type Told } from "./digest.ts";

const told = (kind: NoticeKind, subject: string): Told => ({
  kind,
  subject,
  body: `${subject}, in full.`,
  link: "/desk",
});

describe("what mail says", () => {
  it("is one thing as it was told", () => {
    expect(digestOf([told("begin", "You can begin")])).toEqual({
      subject: "You can begin",
      body: "You can begin, in full.",
      link: "/desk",
    });
  });

  it("is several by what they are, what is asked first, and leads to the inbox", () => {
    const { subject, body, link } = digestOf([told("moved", "LG-02: dates"), told("asked", "LG-02: the plan waits")]);
    expect(subject).toBe("2 things to know: asked of you 1, your dates 1");
    expect(body).toBe(
      "ASKED OF YOU (1)\nLG-02: the plan waits\nLG-02: the plan waits, in full.\n\nYOUR DATES (1)\nLG-02: dates\nLG-02: dates, in full.",
    );
    expect(link).toBe("/inbox");
  });

  it("of two hundred is short enough to be read, and counts what it leaves out", () => {
    const many = Array.from({ length: 200 }, (_, i) => told(i % 20 === 0 ? "asked" : "deadline", `Thing ${i}`));
    const { subject, body } = digestOf(many);
    expect(subject).toBe("200 things to know: asked of you 10, deadlines 190");
    const lines = body.split("\n");
    expect(lines.length).toBeLessThan(30);
    expect(lines.at(-1)).toBe("- and 178 more, in your inbox");
  });
});
