import { endpoints } from "@chronometra/contract";
import { openApiDocument } from "./openapi.ts";

interface Document {
  readonly openapi: string;
  readonly components: { readonly schemas: Readonly<Record<string, object>> };
  readonly paths: Record<
    string,
    Record<
      string,
      {
        operationId: string;
        security: object[];
        summary: string;
        description: string;
        parameters: { name: string; in: string; $ref?: string }[];
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

  it("says what several calls speak of once, and refers to it", () => {
    const text = JSON.stringify(document);
    const asked = [...text.matchAll(/"\$ref":"#\/([^"]+)"/g)].map((match) => match[1]!);
    const at = (path: string): unknown =>
      path.split("/").reduce<unknown>((part, name) => (part as Record<string, unknown>)[name], document);
    for (const path of new Set(asked)) expect([path, typeof at(path)]).toEqual([path, "object"]);
    const { schemas } = document.components;
    expect(Object.keys(schemas)).toEqual(expect.arrayContaining(["Change", "Effect", "Figures"]));
    for (const name of Object.keys(schemas)) expect(asked).toContain(`components/schemas/${name}`);
    expect(text).not.toContain("$defs");
  });

  it("names every part of a path as a parameter, and the token of every changing call", () => {
    for (const { key, path, operation } of operations) {
      const parts = [...path.matchAll(/\{(\w+)\}/g)].map((match) => match[1]);
      expect([
        key,
        operation.parameters.filter((parameter) => parameter.in === "path").map(({ name }) => name),
      ]).toEqual([key, parts]);
      expect([key, operation.parameters.some(({ $ref }) => $ref === "#/components/parameters/Token")]).toEqual([
        key,
        !key.startsWith("GET") && !key.startsWith("POST /api/feeds/"),
      ]);
    }
  });

  it("names each call, what it has to show, what is asked of it and what kind of answer it has", () => {
    const named = operations.map(({ operation }) => operation.operationId);
    expect(new Set(named).size).toBe(operations.length);
    const of = (key: string) => operations.find((each) => each.key === key)!.operation;
    expect(of("GET /api/session").security).toEqual([]);
    expect(of("GET /api/portfolio").security).toEqual([{ session: [] }]);
    expect(of("POST /api/feeds/time").security).toEqual([{ system: [] }]);
    const { parameters } = of("GET /api/projects/{project}/history");
    expect(parameters.filter((each) => each.in === "query").map(({ name }) => name)).toContain("through");
    expect(Object.keys((of("POST /api/imports").requestBody as { content: object }).content)).toEqual([
      "multipart/form-data",
    ]);
    const answers = (of("GET /api/news").responses as { 200: { content: object } })[200].content;
    expect(Object.keys(answers)).toEqual(["text/event-stream"]);
  });
});
