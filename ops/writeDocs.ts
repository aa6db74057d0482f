/** `npm run docs`: writes the documents that are made from code. With --check it only says whether they are current. */
import { readFileSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { recordSchema } from "@chronometra/contract";
import { bundleJsonSchema, planFileJsonSchema } from "@chronometra/core";

const DOCS: Record<string, () => object> = {
  "plan-bundle.schema.json": bundleJsonSchema,
  "plan-bundle-2.schema.json": () => planFileJsonSchema(recordSchema),
};

const check = process.argv.includes("--check");
for (const [name, make] of Object.entries(DOCS)) {
  const path = fileURLToPath(new URL(`../docs/${name}`, import.meta.url));
  const text = `${JSON.stringify(make(), null, 1)}\n`;
  if (!check) writeFileSync(path, text);
  else if (readFileSync(path, "utf8") !== text) {
    process.stderr.write(`docs/${name} is not what the code says; run npm run docs\n`);
    process.exitCode = 1;
  }
}
