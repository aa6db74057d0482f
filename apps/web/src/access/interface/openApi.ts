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

/** What a schema says, as one of a few kinds. */
type Said =
  | { readonly is: "oneOfValues"; readonly values: readonly unknown[] }
  | { readonly is: "several"; readonly schemas: readonly Schema[]; readonly between: string }
  | { readonly is: "list"; readonly of: Schema }
  | { readonly is: "object"; readonly fields: readonly (readonly [name: string, of: Schema, isNeeded: boolean])[] }
  | { readonly is: "record"; readonly of: Schema }
  | { readonly is: "plain"; readonly types: readonly string[] };

function saidBy(document: OpenApi, schema: Schema): Said {
  const of = resolved(document, schema);
  if (of.const !== undefined) return { is: "oneOfValues", values: [of.const] };
  if (of.enum !== undefined) return { is: "oneOfValues", values: of.enum };
  if (of.allOf !== undefined) return { is: "several", schemas: of.allOf, between: " & " };
  const schemas = of.anyOf ?? of.oneOf;
  if (schemas !== undefined) return { is: "several", schemas, between: " | " };
  if (of.items !== undefined) return { is: "list", of: of.items };
  if (of.properties !== undefined) {
    const needed = new Set(of.required);
    return {
      is: "object",
      fields: Object.entries(of.properties).map(([name, each]) => [name, each, needed.has(name)]),
    };
  }
  if (typeof of.additionalProperties === "object") return { is: "record", of: of.additionalProperties };
  return { is: "plain", types: [of.type ?? "any"].flat() };
}

/** How deep a shape is told; what lies deeper is named. */
const DEPTH = 5;

/** What a value of a schema looks like, in lines as code has it. */
export function shapeOf(document: OpenApi, schema: Schema, depth = 0): string {
  if (schema.$ref !== undefined && depth >= DEPTH) return nameOf(schema.$ref);
  const said = saidBy(document, schema);
  switch (said.is) {
    case "oneOfValues":
      return said.values.map((each) => JSON.stringify(each)).join(" | ");
    case "several":
      return said.schemas.map((each) => shapeOf(document, each, depth)).join(said.between);
    case "list":
      return `${grouped(shapeOf(document, said.of, depth))}[]`;
    case "record":
      return `{ [name]: ${shapeOf(document, said.of, depth + 1)} }`;
    case "plain":
      return said.types.join(" | ");
    case "object": {
      if (depth > DEPTH) return "{ ... }";
      const lines = said.fields.map(
        ([name, of, isNeeded]) =>
          `${"  ".repeat(depth + 1)}${name}${isNeeded ? "" : "?"}: ${shapeOf(document, of, depth + 1)}`,
      );
      return ["{", ...lines, `${"  ".repeat(depth)}}`].join("\n");
    }
  }
}

const grouped = (shape: string): string => (shape.includes(" | ") && !shape.startsWith("{") ? `(${shape})` : shape);

const SAMPLES: Readonly<Record<string, unknown>> = { integer: 0, number: 0, boolean: false, string: "" };

/** A body that a call would take but for its values: all that must be said. */
export function sampleOf(document: OpenApi, schema: Schema, depth = 0): unknown {
  const said = saidBy(document, schema);
  const within = (of: Schema): unknown => sampleOf(document, of, depth + 1);
  if (depth > DEPTH) return null;
  switch (said.is) {
    case "oneOfValues":
      return said.values[0];
    case "several":
      return said.schemas[0] === undefined ? null : within(said.schemas[0]);
    case "list":
      return [within(said.of)];
    case "record":
      return {};
    case "plain":
      return SAMPLES[said.types[0]!] ?? null;
    case "object":
      return Object.fromEntries(
        said.fields.filter(([, , isNeeded]) => isNeeded).map(([name, of]) => [name, within(of)]),
      );
  }
}
