import {
  endpoints,
  ERRORS,
  errorSchema,
  SHARED_SCHEMAS,
  TOKEN_PURPOSES,
  type Endpoint,
  type EndpointKey,
} from "@chronometra/contract";
import { z } from "zod";
import { ACCESS } from "../access/accessTable.ts";
import { SESSION_COOKIE, TOKEN_HEADER } from "../access/serve.ts";

/** What several calls speak of, by its name in the document. */
const shared = z.registry<{ id: string }>();
for (const [id, schema] of Object.entries(SHARED_SCHEMAS)) shared.add(schema, { id });

const IN_ITS_PLACE = "#/$defs/";
const IN_THE_DOCUMENT = "#/components/schemas/";

/** Schemas of the document as they are met, each written once. */
const components = new Map<string, unknown>();

const referring = (value: object): object =>
  JSON.parse(JSON.stringify(value).replaceAll(`"${IN_ITS_PLACE}`, `"${IN_THE_DOCUMENT}`)) as object;

/** Names that a record has to have stand among its properties too: readers of the document look for them there. */
function spellOut(schema: z.core.JSONSchema.BaseSchema): void {
  const { required, additionalProperties } = schema;
  if (required === undefined || schema.properties !== undefined || typeof additionalProperties !== "object") return;
  schema.properties = Object.fromEntries(required.map((name) => [name, additionalProperties]));
}

function json(schema: z.ZodType): object {
  const {
    $defs = {},
    $schema: _draft,
    ...own
  } = z.toJSONSchema(schema, {
    metadata: shared,
    unrepresentable: "any",
    io: "input",
    override: ({ jsonSchema }) => spellOut(jsonSchema),
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
      : "token" in access
        ? `For: other systems, with \`Authorization: Bearer\` and a token made to ${TOKEN_PURPOSES[access.token]}.`
        : "house" in access
          ? `For: ${access.house.join(", ")}, of the whole house.`
          : `For: ${access.join(", ")}.`;
};

const isOfSystems = (key: EndpointKey): boolean => {
  const access = ACCESS[key];
  return typeof access === "object" && "token" in access;
};

/** What a call has to show: nothing, the token of another system, or the session of whoever is signed in. */
function securityOf(key: EndpointKey): object[] {
  return ACCESS[key] === "anyone" ? [] : [isOfSystems(key) ? { system: [] } : { session: [] }];
}

const capital = (word: string): string => `${word.charAt(0).toUpperCase()}${word.slice(1)}`;

/** A name for a call, made of its method and its path: `getProjectsByProjectHistory`. */
function operationId(key: EndpointKey): string {
  const [method = "", path = ""] = key.split(" ");
  const parts = path
    .split("/")
    .slice(2)
    .map((part) => (part.startsWith(":") ? `by-${part.slice(1)}` : part));
  return method.toLowerCase() + parts.flatMap((part) => part.split(/[-.]/).map(capital)).join("");
}

const placeOf = (key: string): string => key.split("/")[2]!;

/** A form that has files in its field `file`, and says nothing besides. */
const formOf = (holds: string): object => ({
  "multipart/form-data": {
    schema: {
      type: "object",
      required: ["file"],
      properties: {
        file: { type: "array", minItems: 1, items: { type: "string", format: "binary" }, description: holds },
      },
    },
  },
});

function requestOf({ body, file }: Endpoint): object {
  const content = body !== undefined ? json(body) : file !== undefined ? formOf(file) : null;
  return content === null ? {} : { requestBody: { required: true, content } };
}

function answerOf({ kinds, response }: Endpoint): object {
  if (kinds === undefined) return json(response);
  return Object.fromEntries(
    kinds.map((kind) => [
      kind,
      { schema: { type: "string", ...(kind.startsWith("text/") ? {} : { format: "binary" }) } },
    ]),
  );
}

function operation(key: EndpointKey, endpoint: Endpoint): object {
  const names = [...key.matchAll(/:(\w+)/g)].map((match) => match[1]!);
  const changes = !key.startsWith("GET") && !isOfSystems(key);
  return {
    operationId: operationId(key),
    tags: [placeOf(key)],
    summary: endpoint.summary,
    description: whoMay(key),
    security: securityOf(key),
    parameters: [
      ...names.map((name) => ({ name, in: "path", required: true, schema: { type: "string" } })),
      ...Object.entries(endpoint.query ?? {}).map(([name, description]) => ({
        ...{ name, in: "query", description, schema: { type: "string" } },
      })),
      ...(changes ? [{ $ref: "#/components/parameters/Token" }] : []),
    ],
    ...requestOf(endpoint),
    responses: {
      200: { description: "Done", content: answerOf(endpoint) },
      "4XX": { $ref: "#/components/responses/Failure" },
      "5XX": { $ref: "#/components/responses/Failure" },
    },
  };
}

const token = {
  name: TOKEN_HEADER,
  in: "header",
  required: true,
  schema: { type: "string" },
  description: "The token of GET /api/session",
};

const securitySchemes = {
  session: {
    ...{ type: "apiKey", in: "cookie", name: SESSION_COOKIE },
    description: "Who is signed in, since POST /api/session",
  },
  system: { type: "http", scheme: "bearer", description: "The token that an administrator gave to another system" },
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
  const places = [...new Set(Object.keys(endpoints).map(placeOf))].sort();
  return {
    openapi: "3.1.0",
    info: {
      title: "Chronometra",
      version: "1",
      description: "Plans, baselines, reports and figures. Sessions are by cookie; other systems bring a token.",
      license: { name: "None given", identifier: "LicenseRef-None-Given" },
    },
    servers: [{ url: "/", description: "Where this document came from" }],
    tags: places.map((name) => ({ name, description: `Calls below /api/${name}` })),
    paths,
    components: {
      parameters: { Token: token },
      responses: { Failure: failure },
      schemas: Object.fromEntries([...components].sort(([a], [b]) => (a < b ? -1 : 1))),
      securitySchemes,
    },
  };
}
