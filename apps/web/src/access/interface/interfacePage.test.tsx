/** @jest-environment jsdom */
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { listen, show, someone } from "../../testing/fakePage.tsx";
import { InterfacePage } from "./InterfacePage.tsx";
import { callsOf, narrowed, sampleOf, shapeOf, type OpenApi } from "./openApi.ts";

const json = (schema: object) => ({ content: { "application/json": { schema } } });
const DOCUMENT = {
  components: {
    schemas: {
      Branch: {
        type: "object",
        required: ["name"],
        properties: { name: { type: "string" }, below: { $ref: "#/components/schemas/Branch" } },
      },
    },
  },
  paths: {
    "/api/projects/{project}": {
      get: {
        ...{ operationId: "getProject", tags: ["projects"], summary: "One project", description: "For: reader." },
        security: [{ session: [] }],
        parameters: [
          { name: "project", in: "path" },
          { name: "before", in: "query", description: "lists before this" },
        ],
        responses: { 200: json({ type: "array", items: { $ref: "#/components/schemas/Branch" } }) },
      },
    },
    "/api/feeds/costs": {
      post: {
        ...{ operationId: "postCosts", tags: ["feeds"], summary: "Send costs", description: "For: other systems." },
        ...{ security: [{ system: [] }], parameters: [{ $ref: "#/components/parameters/Token" }] },
        requestBody: json({
          type: "object",
          required: ["kind", "lines"],
          properties: {
            kind: { enum: ["cost", "time"] },
            lines: {
              type: "array",
              items: {
                type: "object",
                required: ["amount"],
                properties: { amount: { type: ["number", "null"] }, note: { type: "string" } },
              },
            },
          },
        }),
        responses: { 200: json({ type: "object", additionalProperties: { anyOf: [{ const: 1 }, { type: "null" }] } }) },
      },
    },
  },
} as unknown as OpenApi;

const call = (id: string) => [...callsOf(DOCUMENT).values()].flat().find(({ operationId }) => operationId === id)!;

describe("the interface's document", () => {
  it("lists calls by what they are about, and those alone that have all words", () => {
    const calls = callsOf(DOCUMENT);
    expect([...calls].map(([place, all]) => [place, all.map(({ method, path }) => `${method} ${path}`)])).toEqual([
      ["feeds", ["POST /api/feeds/costs"]],
      ["projects", ["GET /api/projects/{project}"]],
    ]);
    expect([...narrowed(calls, "post SEND").keys()]).toEqual(["feeds"]);
    expect(narrowed(calls, "send projects").size).toBe(0);
  });

  it("tells shapes as code has them, and what names itself no deeper than can be read", () => {
    const { requestBody, responses } = call("postCosts");
    const body = requestBody!.content["application/json"]!.schema;
    expect(shapeOf(DOCUMENT, body)).toBe(
      '{\n  kind: "cost" | "time"\n  lines: {\n    amount: number | null\n    note?: string\n  }[]\n}',
    );
    expect(sampleOf(DOCUMENT, body)).toEqual({ kind: "cost", lines: [{ amount: 0 }] });
    expect(shapeOf(DOCUMENT, responses[200].content["application/json"]!.schema)).toBe("{ [name]: 1 | null }");
    const deep = shapeOf(DOCUMENT, call("getProject").responses[200].content["application/json"]!.schema);
    expect(deep.startsWith("{\n  name: string\n  below?: {")).toBe(true);
    expect(deep).toContain("below?: Branch");
    expect(deep.endsWith("}[]")).toBe(true);
  });
});

describe("the page of the interface", () => {
  it("makes a call with what is typed, and shows what came back", async () => {
    const sent = listen(({ to }) => (to === "GET /api/openapi.json" ? DOCUMENT : [{ name: "Locks" }]));
    show(<InterfacePage />, { me: someone("administrator") });
    await userEvent.click(await screen.findByRole("button", { name: /One project/ }));
    const form = within(screen.getByRole("form", { name: "Try it" }));
    await userEvent.type(form.getByLabelText(/^project/), "a b");
    await userEvent.type(form.getByLabelText(/^before/), "7");
    await userEvent.click(form.getByRole("button", { name: "Make this call" }));
    expect((await form.findByText(/"name": "Locks"/)).textContent).toBe('[\n  {\n    "name": "Locks"\n  }\n]');
    expect(sent.map(({ to }) => to)).toContain("GET /api/projects/a%20b?before=7");
  });

  it("asks for the token of calls for other systems, and says that a call changes something", async () => {
    listen(({ to }) => (to === "GET /api/openapi.json" ? DOCUMENT : {}));
    show(<InterfacePage />, { me: someone("administrator") });
    await userEvent.click(await screen.findByRole("button", { name: /Send costs/ }));
    const form = within(screen.getByRole("form", { name: "Try it" }));
    expect(form.getByLabelText<HTMLInputElement>(/^token/).required).toBe(true);
    expect(form.getByText(/what it changes is changed for everyone/)).toBeTruthy();
    expect(form.getByLabelText<HTMLTextAreaElement>("What is sent, as JSON").value).toContain('"kind": "cost"');
  });
});
