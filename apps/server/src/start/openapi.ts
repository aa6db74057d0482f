import { endpoints, ERRORS, errorSchema, type Endpoint, type EndpointKey } from "@chronometra/contract";
import { z } from "zod";
import { ACCESS } from "../access/accessTable.ts";

const json = (schema: z.ZodType): object => ({
  "application/json": { schema: z.toJSONSchema(schema, { unrepresentable: "any", io: "input" }) },
});

const whoMay = (key: EndpointKey): string => {
  const access = ACCESS[key];
  return access === "anyone"
    ? "Open to anyone."
    : access === "signedIn"
      ? "For everyone who is signed in."
      : access === "token"
        ? "For: other systems, with `Authorization: Bearer` and their token."
        : `For: ${access.join(", ")}.`;
};

function operation(key: EndpointKey, endpoint: Endpoint): object {
  const names = [...key.matchAll(/:(\w+)/g)].map((match) => match[1]!);
  const changes = !key.startsWith("GET");
  return {
    summary: endpoint.summary,
    description: whoMay(key),
    parameters: [
      ...names.map((name) => ({ name, in: "path", required: true, schema: { type: "string" } })),
      ...(changes
        ? [
            {
              name: "x-chronometra-token",
              in: "header",
              required: true,
              schema: { type: "string" },
              description: "The token of GET /api/session",
            },
          ]
        : []),
    ],
    ...(endpoint.body === undefined ? {} : { requestBody: { required: true, content: json(endpoint.body) } }),
    responses: {
      200: { description: "Done", content: json(endpoint.response) },
      default: {
        description: Object.entries(ERRORS)
          .map(([code, { status }]) => `${status} ${code}`)
          .join(", "),
        content: json(errorSchema),
      },
    },
  };
}

/** The HTTP interface as an OpenAPI 3.1 document, made from the contract itself. */
export function openApiDocument(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const [key, endpoint] of Object.entries(endpoints) as [EndpointKey, Endpoint][]) {
    const [method, path] = key.split(" ") as [string, string];
    (paths[path.replace(/:(\w+)/g, "{$1}")] ??= {})[method.toLowerCase()] = operation(key, endpoint);
  }
  return {
    openapi: "3.1.0",
    info: {
      title: "Chronometra",
      version: "1",
      description: "Plans, baselines, reports and figures. Sessions are by cookie.",
    },
    paths,
  };
}
