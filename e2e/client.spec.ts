import { execFileSync } from "node:child_process";
import { mkdirSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { expect, test } from "@playwright/test";
import { beside } from "./helpers.ts";

/** Below the checkout, so that the compiler finds what it needs; kept out of what is committed. */
const FOLDER = join(import.meta.dirname, "..", "var", `client-${process.env["TEST_PARALLEL_INDEX"] ?? "0"}`);

/** What another system would write against the client that is made from our document. */
const USE = `import { createClient } from "./client/client/index.ts";
import { getFeedsFigures, postFeedsTime } from "./client/sdk.gen.ts";

export async function use(baseUrl: string, token: string) {
  const client = createClient({ baseUrl, auth: () => token });
  const sent = await postFeedsTime({
    client,
    body: {
      lines: [
        { reference: "g-1", project: "LG-02", activity: "A0710", person: "Amadou Keller", date: "2026-11-24", minutes: 90 },
      ],
    },
  });
  const read = await getFeedsFigures({ client, query: { project: "LG-02", from: "5" } });
  const periods: number[] | undefined = read.data?.rows.map(({ period }) => period);
  return { added: sent.data?.added, failed: sent.error?.message, periods };
}
`;

const CONFIG = {
  compilerOptions: {
    ...{ strict: true, target: "es2023", module: "nodenext", moduleResolution: "nodenext", lib: ["es2023", "dom"] },
    ...{ outDir: "out", rewriteRelativeImportExtensions: true, skipLibCheck: false, types: [] },
  },
  include: ["use.ts", "client"],
};

test("a client made from the interface's document compiles and makes the calls of the README", async ({ page }) => {
  rmSync(FOLDER, { recursive: true, force: true });
  mkdirSync(FOLDER, { recursive: true });
  const dagny = await beside(page, "dagny");
  const origin = new URL(page.url()).origin;
  writeFileSync(join(FOLDER, "openapi.json"), await (await page.request.get("/api/openapi.json")).text());
  const { createClient } = await import("@hey-api/openapi-ts");
  await createClient({
    input: join(FOLDER, "openapi.json"),
    output: { path: join(FOLDER, "client"), importFileExtension: ".ts" },
    plugins: ["@hey-api/typescript", "@hey-api/sdk", "@hey-api/client-fetch"],
    logs: { level: "silent" },
  });
  writeFileSync(join(FOLDER, "use.ts"), USE);
  writeFileSync(join(FOLDER, "package.json"), JSON.stringify({ type: "module" }));
  writeFileSync(join(FOLDER, "tsconfig.json"), JSON.stringify(CONFIG));
  // Strictly, and with nothing let pass: a fault of the document is one of the client.
  execFileSync("npx", ["tsc", "-p", FOLDER], { encoding: "utf8" });
  const { token } = await dagny.send<{ token: string }>("post", "/api/tokens", {
    ...{ name: "A generated client", purposes: ["sendTime", "readFigures"] },
  });
  const { use } = (await import(pathToFileURL(join(FOLDER, "out", "use.js")).href)) as {
    use: (origin: string, token: string) => Promise<{ added?: number; failed?: string; periods?: number[] }>;
  };
  expect(await use(origin, token)).toEqual({ added: 1, failed: undefined, periods: [5, 6, 7, 8, 9] });
  rmSync(FOLDER, { recursive: true, force: true });
});
