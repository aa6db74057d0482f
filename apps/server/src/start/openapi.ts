import { endpoints, ERRORS, errorSchema, SHARED_SCHEMAS, type Endpoint, type EndpointKey } from "@chronometra/contract";
import { z } from "zod";
import { ACCESS } from "../access/accessTable.ts";

/** What several calls speak of, by its name in the document. */
const shared = z.registry<{ id: string }>();
for (const [id, schema] of Object.entries(SHARED_SCHEMAS)) shared.add(schema, { id });

const IN_ITS_PLACE = "#/$defs/";
const IN_THE_DOCUMENT = "#/components/schemas/";

/** Schemas of the document as they are met, each written once. */
const components = new Map<string, unknown>();

const referring = (value: object): object =>
  JSON.parse(JSON.stringify(value).replaceAll(`"${IN_ITS_PLACE}`, `"${IN_THE_DOCUMENT}`)) as object;

function json(schema: z.ZodType): object {
  const {
    $defs = {},
    $schema: _draft,
    ...own
  } = z.toJSONSchema(schema, {
    metadata: shared,
    unrepresentable: "any",
    io: "input",
  });
  for (const [id, { id: _own, ...definition }] of Object.entries($defs))
    if (!components.has(id)) components.set(id, referring(definition));
  const { id, ...rest } = own;
  // A shared schema that is asked for itself stands among the others too.
  if (id === undefined) return { "application/json": { schema: referring(rest) } };
  components.set(id, referring(rest));
  return { "application/json": { schema: { $ref: `${IN_THE_DOCUMENT}${id}` } } };
}

const whoMay = (key: EndpointKey): string => {
  const access = ACCESS[key];
  return access === "anyone"
    ? "Open to anyone."
    : access === "signedIn"
      ? "For everyone who is signed in."
      : access === "token"
        ? "For: other systems, with `Authorization: Bearer` and their token."
        : "house" in access
          ? `For: ${access.house.join(", ")}, of the whole house.`
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
      ...(changes ? [{ $ref: "#/components/parameters/Token" }] : []),
    ],
    ...(endpoint.body === undefined ? {} : { requestBody: { required: true, content: json(endpoint.body) } }),
    responses: {
      200: { description: "Done", content: json(endpoint.response) },
      default: { $ref: "#/components/responses/Failure" },
    },
  };
}

const token = {
  name: "x-chronometra-token",
  in: "header",
  required: true,
  schema: { type: "string" },
  description: "The token of GET /api/session",
};

/** What any call may answer where it cannot be done. */
const failure = {
  description: Object.entries(ERRORS)
    .map(([code, { status }]) => `${status} ${code}`)
    .join(", "),
  content: json(errorSchema),
};

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
    components: {
      parameters: { Token: token },
      responses: { Failure: failure },
      schemas: Object.fromEntries([...components].sort(([a], [b]) => (a < b ? -1 : 1))),
    },
  };
}
