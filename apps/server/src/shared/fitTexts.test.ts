import { findUnfit, sentName } from "./fitTexts.ts";

it("a value is looked through whole: texts, names of fields, and however deep it is nested", () => {
  expect(findUnfit({ a: [1, null, { b: "fine" }], c: true })).toBeNull();
  expect(findUnfit(undefined)).toBeNull();
  expect(findUnfit("a\u0000")?.path).toEqual([]);
  expect(findUnfit({ changes: [{ name: "ok" }, { name: "a\u0000" }] })?.path).toEqual(["changes", "1", "name"]);
  expect(findUnfit({ "a\u202e": 1 })?.why).toMatch(/a name in it/);
  const nested = (depth: number): unknown => JSON.parse(`${"[".repeat(depth)}${"]".repeat(depth)}`);
  expect(findUnfit(nested(64))).toBeNull();
  for (const depth of [65, 300_000])
    expect(findUnfit(nested(depth))?.why).toBe("What was sent is nested deeper than 64 levels");
});

it("a file keeps the end of its name, and nothing that makes it look like another kind of file", () => {
  const sent = (name: string): string => Buffer.from(name).toString("latin1");
  expect(sentName(sent("Žižek invoice\u202efdp.exe"))).toBe("Žižek invoicefdp.exe");
  const long = sentName(sent(`😀${"x".repeat(199)}`));
  expect([long.length, /\p{Surrogate}/u.test(long)]).toEqual([199, false]);
});
