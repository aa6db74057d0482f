import fc from "fast-check";
import { openApiDocument } from "../start/openapi.ts";

/** A call made by the description of the interface, save for what has gone wrong with it. */
export interface BadCall {
  readonly key: string;
  readonly method: "get" | "post" | "put" | "delete";
  readonly path: string;
  readonly body?: unknown;
  /** Whether it is one of other systems, that show a token. */
  readonly ofSystem: boolean;
}

interface Schema {
  readonly $ref?: string;
  readonly type?: string | readonly string[];
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly allOf?: readonly Schema[];
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly required?: readonly string[];
  readonly additionalProperties?: Schema | boolean;
  readonly items?: Schema;
  readonly prefixItems?: readonly Schema[];
  readonly pattern?: string;
  readonly format?: string;
}

interface Operation {
  readonly security: readonly object[];
  readonly parameters: readonly { readonly in?: string; readonly name?: string }[];
  readonly requestBody?: { readonly content: Readonly<Record<string, { readonly schema: Schema }>> };
}

interface Document {
  readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>;
  readonly components: { readonly schemas: Readonly<Record<string, Schema>> };
}

const NASTY_TEXTS = [
  ...[
    "",
    " ",
    "\u0000",
    "a\u0000b",
    "\ud800",
    "x\udfff",
    "\u202egnp.exe",
    "\ufeff",
    "😀".repeat(300),
    "e\u0301".repeat(90),
  ],
  ...[
    "x".repeat(70_000),
    "'",
    "' or 1=1 -- ",
    '"',
    "\\",
    "%",
    "_%",
    "`",
    "${7*7}",
    "{{7*7}}",
    "=1+1",
    "<img src=x onerror=alert(1)>",
  ],
  ...[
    "__proto__",
    "constructor",
    "toString",
    "null",
    "undefined",
    "NaN",
    "Infinity",
    "-1",
    "1e999",
    "0x10",
    "9".repeat(40),
  ],
  ...[
    "2026-02-30",
    "0000-00-00",
    "99999-01-01",
    "2026-13-45T99:99",
    "-271821-04-20",
    "9999-12-31",
    "0001-01-01",
    "\r\nSet-Cookie: a=b",
  ],
  ...[
    "../../etc/passwd",
    "file:///etc/passwd",
    "http://127.0.0.1:1/",
    "javascript:alert(1)",
    "[".repeat(500),
    "(a+)+$".repeat(20),
  ],
];
const NASTY_NUMBERS = [
  ...[0, -0, -1, 1e15, 1e300, -1e300, 5e-324, 0.1, 1.5, 2 ** 31, -(2 ** 31), 2 ** 53, 2 ** 53 + 2, 2 ** 63, 2 ** 64],
];

const nastyText = fc.oneof(fc.constantFrom(...NASTY_TEXTS), fc.string({ unit: "binary", maxLength: 40 }));
const nasty: fc.Arbitrary<unknown> = fc.oneof(
  nastyText,
  fc.constantFrom<unknown>(...NASTY_NUMBERS, null, true, false, [], {}, [[]], [null], { toString: 1 }),
  fc.constant(Array.from({ length: 3000 }, (_, i) => i)),
  fc.constant(JSON.parse(`${'{"a":'.repeat(400)}1${"}".repeat(400)}`) as unknown),
);
const mostly = <T>(good: fc.Arbitrary<T>, weight = 12): fc.Arbitrary<unknown> =>
  fc.oneof({ weight, arbitrary: good }, { weight: 1, arbitrary: nasty });

const DAYS = fc
  .date({ min: new Date("2026-01-01"), max: new Date("2027-12-31"), noInvalidDate: true })
  .map((day) => day.toISOString().slice(0, 10));

/** Makes calls of the whole interface; `ids` are of what there is, so that some of them find something. */
export class BadCalls {
  private readonly document = openApiDocument() as Document;
  private readonly word: fc.Arbitrary<string>;

  /** @param named what parts of addresses name, by the part: `project` and others */
  constructor(
    ids: readonly string[],
    private readonly named: Readonly<Record<string, string>>,
  ) {
    this.word = fc.oneof(
      { weight: 6, arbitrary: fc.constantFrom("plan", "Dig", "1", ...ids) },
      { weight: 1, arbitrary: nastyText },
    );
  }

  private part(name: string): fc.Arbitrary<string> {
    const known = this.named[name];
    if (known === undefined) return this.word;
    return fc.oneof({ weight: 8, arbitrary: fc.constant(known) }, { weight: 1, arbitrary: this.word });
  }

  /** Some of them, the same again for the same seed. */
  some(count: number, seed: number, skip: ReadonlySet<string> = new Set()): BadCall[] {
    const each = Object.entries(this.document.paths).flatMap(([path, methods]) =>
      Object.entries(methods)
        .filter(([method]) => !skip.has(`${method.toUpperCase()} ${path}`))
        .map(([method, operation]) => this.call(method as BadCall["method"], path, operation)),
    );
    return fc.sample(fc.oneof(...each), { numRuns: count, seed });
  }

  private call(method: BadCall["method"], path: string, operation: Operation): fc.Arbitrary<BadCall> {
    const names = (where: string): string[] =>
      operation.parameters.filter((each) => each.in === where).map(({ name }) => name!);
    const parts = fc.record(Object.fromEntries(names("path").map((name) => [name, this.part(name)])));
    const query = fc.record(Object.fromEntries(names("query").map((name) => [name, this.word])), { requiredKeys: [] });
    const content = operation.requestBody?.content["application/json"];
    const body = content === undefined ? fc.constant(undefined) : this.value(content.schema, 0);
    return fc.tuple(parts, query, body).map(([named, asked, sent]) => {
      const address = path.replace(/\{(\w+)\}/g, (_, name: string) => inAddress(named[name] as string));
      const questions = Object.entries(asked).map(([name, value]) => `${name}=${inAddress(value as string)}`);
      return {
        key: `${method.toUpperCase()} ${path}`,
        method,
        ofSystem: operation.security.some((each) => "system" in each),
        path: questions.length === 0 ? address : `${address}?${questions.join("&")}`,
        ...(sent !== undefined && { body: sent }),
      };
    });
  }

  private value(schema: Schema, depth: number): fc.Arbitrary<unknown> {
    return mostly(this.good(schema, depth), depth === 0 ? 30 : 12);
  }

  private good(schema: Schema, depth: number): fc.Arbitrary<unknown> {
    const { $ref, enum: some, anyOf, oneOf, allOf } = schema;
    if (depth > 7) return fc.constant(null);
    if ($ref !== undefined) return this.good(this.document.components.schemas[$ref.split("/").at(-1)!]!, depth + 1);
    if (schema.const !== undefined) return fc.constant(schema.const);
    if (some !== undefined) return fc.constantFrom(...some);
    const choices = anyOf ?? oneOf;
    if (choices !== undefined) return fc.oneof(...choices.map((each) => this.good(each, depth)));
    if (allOf !== undefined)
      return fc
        .tuple(...allOf.map((each) => this.good(each, depth)))
        .map((all) => Object.assign({}, ...(all as object[])) as object);
    return this.ofType(schema, depth);
  }

  private ofType(schema: Schema, depth: number): fc.Arbitrary<unknown> {
    const type = typeof schema.type === "string" ? schema.type : schema.type?.[0];
    switch (type) {
      case "object":
        return this.record(schema, depth);
      case "array":
        return schema.prefixItems === undefined
          ? fc.array(this.value(schema.items ?? {}, depth + 1), { maxLength: 3 })
          : fc.tuple(...schema.prefixItems.map((each) => this.value(each, depth + 1)));
      case "integer":
        return fc.integer({ min: 0, max: 1000 });
      case "number":
        return fc.double({ min: 0, max: 1000, noNaN: true });
      case "boolean":
        return fc.boolean();
      case "null":
        return fc.constant(null);
      default:
        return schema.pattern?.includes("\\d{4}") === true || schema.format === "date" ? DAYS : this.word;
    }
  }

  private record({ properties = {}, required = [], additionalProperties }: Schema, depth: number) {
    const named = Object.fromEntries(
      Object.entries(properties).map(([name, each]) => [name, this.value(each, depth + 1)]),
    );
    const whole = fc.record(named, { requiredKeys: [...required].filter((name) => name in named) });
    if (typeof additionalProperties !== "object") return whole;
    const more = fc.dictionary(this.word, this.value(additionalProperties, depth + 1), { maxKeys: 3 });
    return fc.tuple(whole, more).map(([a, b]): unknown => ({ ...b, ...a }));
  }
}

/** A text as a part of an address; what cannot be written there, as broken bytes. */
function inAddress(text: string): string {
  const short = text.slice(0, 2000);
  try {
    return encodeURIComponent(short) || "%00";
  } catch {
    return "%ED%A0%80";
  }
}
