/** A schema as the interface's document has it (JSON Schema 2020-12, as far as it is used there). */
export interface Schema {
  readonly $ref?: string;
  readonly type?: string | readonly string[];
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly required?: readonly string[];
  readonly additionalProperties?: boolean | Schema;
  readonly items?: Schema;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly allOf?: readonly Schema[];
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly format?: string;
}

interface Parameter {
  readonly $ref?: string;
  readonly name: string;
  readonly in: string;
  readonly description?: string;
}

type Content = Readonly<Record<string, { readonly schema: Schema }>>;

interface Operation {
  readonly operationId: string;
  readonly summary: string;
  readonly description: string;
  readonly tags: readonly string[];
  readonly security: readonly Readonly<Record<string, unknown>>[];
  readonly parameters: readonly Parameter[];
  readonly requestBody?: { readonly content: Content };
  readonly responses: { readonly 200: { readonly content: Content } };
}

/** The interface's document, as far as its page reads it. */
export interface OpenApi {
  readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>;
  readonly components: { readonly schemas: Readonly<Record<string, Schema>> };
}

/** A call of the interface. */
export interface ApiCall extends Operation {
  readonly method: string;
  readonly path: string;
}

/** The calls of a document, by what they are about and then as it lists them. */
export function callsOf({ paths }: OpenApi): Map<string, ApiCall[]> {
  const byPlace = new Map<string, ApiCall[]>();
  for (const [path, methods] of Object.entries(paths))
    for (const [method, operation] of Object.entries(methods)) {
      const [place = ""] = operation.tags;
      byPlace.set(place, [...(byPlace.get(place) ?? []), { ...operation, method: method.toUpperCase(), path }]);
    }
  return new Map([...byPlace].sort(([a], [b]) => a.localeCompare(b, "en")));
}

/** Calls whose address or summary has all of some words; places that have none are left out. */
export function narrowed(calls: ReadonlyMap<string, readonly ApiCall[]>, words: string): Map<string, ApiCall[]> {
  const wanted = words.toLowerCase().split(/\s+/);
  return new Map(
    [...calls]
      .map(([place, all]): [string, ApiCall[]] => [
        place,
        all.filter(({ method, path, summary }) => {
          const text = `${method} ${path} ${summary}`.toLowerCase();
          return wanted.every((word) => text.includes(word));
        }),
      ])
      .filter(([, all]) => all.length > 0),
  );
}

const nameOf = (ref: string): string => ref.split("/").at(-1)!;

const resolved = (document: OpenApi, schema: Schema): Schema =>
  schema.$ref === undefined ? schema : (document.components.schemas[nameOf(schema.$ref)] ?? {});

/** How deep a shape is told; what lies deeper is named. */
const DEPTH = 5;

/** What a value of a schema looks like, in lines as code has it. */
export function shapeOf(document: OpenApi, schema: Schema, depth = 0): string {
  if (schema.$ref !== undefined && depth >= DEPTH) return nameOf(schema.$ref);
  const { type, properties, required = [], items, additionalProperties, ...rest } = resolved(document, schema);
  if (rest.const !== undefined) return JSON.stringify(rest.const);
  if (rest.enum !== undefined) return rest.enum.map((each) => JSON.stringify(each)).join(" | ");
  const several = rest.anyOf ?? rest.oneOf;
  if (several !== undefined) return several.map((each) => shapeOf(document, each, depth)).join(" | ");
  if (rest.allOf !== undefined) return rest.allOf.map((each) => shapeOf(document, each, depth)).join(" & ");
  if (items !== undefined) return `${grouped(shapeOf(document, items, depth))}[]`;
  if (properties !== undefined) {
    if (depth > DEPTH) return "{ ... }";
    const indent = "  ".repeat(depth + 1);
    const lines = Object.entries(properties).map(
      ([name, each]) => `${indent}${name}${required.includes(name) ? "" : "?"}: ${shapeOf(document, each, depth + 1)}`,
    );
    return `{\n${lines.join("\n")}\n${"  ".repeat(depth)}}`;
  }
  if (typeof additionalProperties === "object")
    return `{ [name]: ${shapeOf(document, additionalProperties, depth + 1)} }`;
  return typeof type === "string" ? type : (type ?? ["any"]).join(" | ");
}

const grouped = (shape: string): string => (shape.includes(" | ") && !shape.startsWith("{") ? `(${shape})` : shape);

/** A body that a call would take but for its values: all that must be said. */
export function sampleOf(document: OpenApi, schema: Schema, depth = 0): unknown {
  const { type, properties = {}, required = [], items, ...rest } = resolved(document, schema);
  if (rest.const !== undefined) return rest.const;
  if (rest.enum !== undefined) return rest.enum[0];
  const first = (rest.anyOf ?? rest.oneOf ?? rest.allOf)?.[0];
  if (first !== undefined) return depth > DEPTH ? null : sampleOf(document, first, depth + 1);
  switch (Array.isArray(type) ? (type as readonly string[])[0] : type) {
    case "object":
      return Object.fromEntries(
        depth > DEPTH ? [] : required.map((name) => [name, sampleOf(document, properties[name] ?? {}, depth + 1)]),
      );
    case "array":
      return items === undefined || depth > DEPTH ? [] : [sampleOf(document, items, depth + 1)];
    case "integer":
    case "number":
      return 0;
    case "boolean":
      return false;
    default:
      return "";
  }
}
