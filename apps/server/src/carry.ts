/**
 * A whole installation leaves into a file, or arrives from one: `carry leave FILE`, `carry arrive FILE [--moved]`,
 * with the address of the database in CHRONOMETRA_DATABASE. A file `-` is the standard output or input.
 */
import { createReadStream, createWriteStream, renameSync, rmSync } from "node:fs";
import { pipeline } from "node:stream/promises";
import { createGunzip, createGzip } from "node:zlib";
import { arrive } from "./carry/arrive.ts";
import { leave } from "./carry/leave.ts";

const say = (words: string): void => void process.stderr.write(`${words}\n`);
const told = (table: string, rows: number): void => {
  if (rows > 0) say(`  ${table}: ${rows}`);
};

/** Writes under another name first, so that a file of that name is always whole. */
async function leaveInto(url: string, file: string): Promise<void> {
  const isPiped = file === "-";
  const unfinished = `${file}.part`;
  const zip = createGzip();
  const leaving = leave(url, zip, told).then(
    (carried) => (zip.end(), carried),
    (error: Error) => {
      zip.destroy(error);
      throw error;
    },
  );
  const writing = isPiped
    ? pipeline(zip, process.stdout, { end: false })
    : pipeline(zip, createWriteStream(unfinished, { mode: 0o600 }));
  try {
    const [{ tables, rows }] = await Promise.all([leaving, writing]);
    if (!isPiped) renameSync(unfinished, file);
    say(`${rows} rows of ${tables} tables were written.`);
  } catch (error) {
    if (!isPiped) rmSync(unfinished, { force: true });
    throw error;
  }
}

async function arriveFrom(url: string, file: string, hasMoved: boolean): Promise<void> {
  const source = file === "-" ? process.stdin : createReadStream(file);
  const plain = createGunzip();
  source.once("error", (error: Error) => plain.destroy(error));
  const { tables, rows } = await arrive(url, source.pipe(plain), { hasMoved, tell: told });
  say(`${rows} rows of ${tables} tables have arrived.`);
}

async function main(): Promise<void> {
  const [what, file, ...rest] = process.argv.slice(2);
  const url = process.env["CHRONOMETRA_DATABASE"];
  if (url === undefined || file === undefined) throw new Error("name a file, and the database in CHRONOMETRA_DATABASE");
  if (what === "leave") await leaveInto(url, file);
  else await arriveFrom(url, file, rest.includes("--moved"));
}

main().catch((error: unknown) => {
  say(error instanceof Error ? error.message : String(error));
  process.exitCode = 1;
});
