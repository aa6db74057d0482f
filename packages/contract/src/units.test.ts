import { z } from "zod";
import { endpoints, type EndpointKey } from "./endpoints.ts";

const KEYS = Object.keys(endpoints) as EndpointKey[];

/** Every number of a schema by its path, with what is said of it. */
function numbersIn(schema: unknown, path = ""): { path: string; said: string }[] {
  if (typeof schema !== "object" || schema === null) return [];
  const { type, description = "" } = schema as { type?: string; description?: string };
  const own = (type === "integer" || type === "number") && path !== "" ? [{ path, said: description }] : [];
  return [
    ...own,
    ...Object.entries(schema).flatMap(([key, value]) =>
      key === "properties"
        ? Object.entries(value as object).flatMap(([name, each]) => numbersIn(each, `${path}.${name}`))
        : Array.isArray(value)
          ? value.flatMap((each) => numbersIn(each, path))
          : numbersIn(value, path),
    ),
  ];
}
const answerOf = (key: EndpointKey): { path: string; said: string }[] =>
  numbersIn(
    z.toJSONSchema((endpoints[key] as { response: z.ZodType }).response, { io: "input", unrepresentable: "any" }),
  );
/** Rows of a plan are told as they stand in a bundle, whose document says what they are. */
const isRow = (path: string): boolean => /\.(tables|changes|plan)\b/.test(path);

describe("numbers of the interface", () => {
  it.each(KEYS)("%s says in what its amounts and times are counted", (key) => {
    const silent = answerOf(key).filter(
      ({ path, said }) =>
        !isRow(path) &&
        ((/Minor(\.(from|to))?$/.test(path) && !said.includes("minor units")) ||
          (/[mM]inutes(\.(from|to))?$/.test(path) && !said.includes("minutes"))),
    );
    expect(silent).toEqual([]);
  });

  it("are whole where they are minor units", () => {
    const broken = KEYS.flatMap((key) =>
      answerOf(key).filter(({ path, said }) => said.includes("minor units") && /days|ratio|share/i.test(path)),
    );
    expect(broken).toEqual([]);
  });
});
