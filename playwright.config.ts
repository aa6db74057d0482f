import { defineConfig } from "@playwright/test";

const server = process.env["CHRONOMETRA_TEST_DATABASE"] ?? "mysql://root@127.0.0.1:3306";
/** The same by a user who may do no more than the application needs. */
const user = process.env["CHRONOMETRA_E2E_DATABASE"] ?? server;
/** A server for each worker, on a port and a database of its own, named `browser` and its place. */
const ports = (process.env["CHRONOMETRA_E2E_PORTS"] ?? "4698,4699").split(",").map(Number);
// This file is read anew by each worker, which knows its place.
const place = Number(process.env["TEST_PARALLEL_INDEX"] ?? 0);

const output = process.env["CHRONOMETRA_E2E_OUTPUT"] ?? "test-results";
/** What a server says, and how it ended: one that dies leaves nothing but refused connections to the tests. */
const saysInto = (i: number): string => `"${output}-server${i}.log"`;

export default defineConfig({
  testDir: "e2e",
  outputDir: output,
  // One world for the tests of a worker: each works on a project of its own.
  workers: ports.length,
  fullyParallel: false,
  retries: 0,
  // Machines with few cores, and others busy on them, take several times as long.
  timeout: 150_000,
  expect: { timeout: 20_000 },
  reporter: [["list"], ["json"]],
  use: {
    baseURL: `http://localhost:${ports[place]}`,
    viewport: { width: 1280, height: 800 },
    actionTimeout: 60_000,
    launchOptions: {
      // The browser without its own windows and menus, which would take as much of a small machine as the pages do.
      executablePath: "/usr/bin/chromium-headless-shell",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
  webServer: ports.map((port, i) => ({
    command: `ops/serve > ${saysInto(i)} 2>&1; echo "The server ended ($?)." >> ${saysInto(i)}`,
    url: `http://localhost:${port}/api/session`,
    timeout: 120_000,
    gracefulShutdown: { signal: "SIGTERM" as const, timeout: 5_000 },
    env: {
      CHRONOMETRA_DATABASE: `${user}/browser${i}`,
      CHRONOMETRA_DATABASE_OWNER: `${server}/browser${i}`,
      CHRONOMETRA_PORT: String(port),
      CHRONOMETRA_SECRET: "browser tests",
    },
  })),
});
