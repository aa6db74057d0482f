import { readdirSync } from "node:fs";
import { join, relative } from "node:path";

const ROOT = join(__dirname, "..");
const MOST = 12;

/** Folders that hold more source files than others, with why. */
const LARGER: Readonly<Record<string, string>> = {
  "packages/contract/src": "a file a capability, by the words of the server's and the pages' rooms",
  "packages/core/src/quality/checks": "a file a check, the fourteen of a published assessment",
  "packages/core/src/quality/findings": "a file a finding, listed in findAll.ts",
  "apps/server/src/start/migrations": "a file a migration; shipped ones stay as they are",
};

const isSource = (name: string): boolean => /\.(ts|tsx)$/.test(name) && !/\.(test|d)\.tsx?$/.test(name);

/** How many source files each folder below one holds, tests left out. */
function* counted(folder: string): Generator<{ folder: string; files: number }> {
  const entries = readdirSync(folder, { withFileTypes: true });
  yield {
    folder: relative(ROOT, folder),
    files: entries.filter((entry) => entry.isFile() && isSource(entry.name)).length,
  };
  for (const entry of entries)
    if (entry.isDirectory() && !["node_modules", "dist"].includes(entry.name)) yield* counted(join(folder, entry.name));
}

const all = ["packages/core", "packages/contract", "apps/server", "apps/web"].flatMap((each) => [
  ...counted(join(ROOT, each, "src")),
]);

describe("folders", () => {
  it(`hold ${MOST} source files at most, but for those that are named with why`, () => {
    const larger = all.filter(({ folder, files }) => files > MOST && LARGER[folder] === undefined);
    expect(larger).toEqual([]);
  });

  it("are named as larger only while they are", () => {
    const known = new Map(all.map(({ folder, files }) => [folder, files]));
    expect(Object.keys(LARGER).filter((folder) => (known.get(folder) ?? 0) <= MOST)).toEqual([]);
  });
});
