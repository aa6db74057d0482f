import { endpoints } from "@chronometra/contract";
import { openApiDocument } from "./openapi.ts";

interface Document {
  readonly openapi: string;
  readonly paths: Record<
    string,
    Record<
      string,
      {
        summary: string;
        description: string;
        parameters: { name: string; in: string }[];
        requestBody?: object;
        responses: object;
      }
    >
  >;
}

describe("the HTTP interface as a document", () => {
  const document = openApiDocument() as Document;
  const operations = Object.entries(document.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ key: `${method.toUpperCase()} ${path}`, path, operation })),
  );

  it("has every call of the contract once, with who may make it", () => {
    const wanted = Object.keys(endpoints).map((key) => key.replace(/:(\w+)/g, "{$1}"));
    expect(operations.map(({ key }) => key).sort()).toEqual(wanted.sort());
    for (const { operation } of operations)
      expect(operation.description).toMatch(/^(Open to anyone|For everyone who is signed in|For: )/);
  });

  it("names every part of a path as a parameter, and the token of every changing call", () => {
    for (const { key, path, operation } of operations) {
      const parts = [...path.matchAll(/\{(\w+)\}/g)].map((match) => match[1]);
      expect([
        key,
        operation.parameters.filter((parameter) => parameter.in === "path").map(({ name }) => name),
      ]).toEqual([key, parts]);
      expect([key, operation.parameters.some(({ name }) => name === "x-chronometra-token")]).toEqual([
        key,
        !key.startsWith("GET"),
      ]);
    }
  });
});
