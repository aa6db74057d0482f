// Lists the licences of all that is shipped, from the lock file; fails on one that was not looked at yet.
import { readFileSync } from "node:fs";

const LOOKED_AT = new Set([
  "MIT",
  "ISC",
  "Apache-2.0",
  "BSD-2-Clause",
  "BSD-3-Clause",
  "0BSD",
  "BlueOak-1.0.0",
  "OFL-1.1",
  "Unlicense",
  "Python-2.0",
  "CC0-1.0",
  "CC-BY-3.0",
  "MIT-0",
  "MIT/X11",
  "PSF-2.0",
  "Zlib",
]);

/** What a package says elsewhere than in the field that the lock file copies. */
const SAID_ELSEWHERE = { busboy: "MIT", streamsearch: "MIT" };

const { packages } = JSON.parse(readFileSync(new URL("../package-lock.json", import.meta.url), "utf8"));
const parts = Object.entries(packages)
  .filter(([path, { dev, link }]) => path.includes("node_modules/") && dev !== true && link !== true)
  .map(([path, { version, license }]) => ({
    name: path.replace(/.*node_modules\//, ""),
    version,
    licence: license,
  }))
  .map((part) => ({ ...part, licence: part.licence ?? SAID_ELSEWHERE[part.name] ?? "none said" }));
const by = new Map();
for (const part of parts) by.set(part.licence, [...(by.get(part.licence) ?? []), part]);
for (const [licence, of] of [...by].sort((a, b) => b[1].length - a[1].length))
  process.stdout.write(
    `${licence}: ${of.length}, among them ${of
      .slice(0, 6)
      .map(({ name, version }) => `${name} ${version}`)
      .join(", ")}\n`,
  );
const allowed = (licence) =>
  licence
    .replace(/[()]/g, "")
    .split(/ OR /)
    .some((each) => each.split(" AND ").every((one) => LOOKED_AT.has(one)));
const odd = parts.filter((part) => !allowed(part.licence));
for (const part of odd) process.stderr.write(`To be looked at: ${part.name} ${part.version}, ${part.licence}\n`);
process.exit(odd.length === 0 ? 0 : 1);
