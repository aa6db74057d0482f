import { defineConfig } from "@playwright/test";

const port = Number(process.env["CHRONOMETRA_E2E_PORT"] ?? 4699);
const database = `${process.env["CHRONOMETRA_TEST_DATABASE"] ?? "mysql://root@127.0.0.1:3306"}/browser`;

export default defineConfig({
  testDir: "e2e",
  outputDir: process.env["CHRONOMETRA_E2E_OUTPUT"] ?? "test-results",
  // One world for all tests: each works on a project of its own, in the order of the files.
  workers: 1,
  fullyParallel: false,
  retries: 0,
  timeout: 60_000,
  expect: { timeout: 10_000 },
  reporter: [["list"], ["json"]],
  use: {
    baseURL: `http://localhost:${port}`,
    viewport: { width: 1280, height: 800 },
    trace: "retain-on-failure",
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync"],
    },
  },
  webServer: {
    command: "node --enable-source-maps apps/server/dist/main.js",
    url: `http://localhost:${port}/api/session`,
    timeout: 120_000,
    gracefulShutdown: { signal: "SIGTERM", timeout: 5_000 },
    env: { CHRONOMETRA_DATABASE: database, CHRONOMETRA_PORT: String(port), CHRONOMETRA_SECRET: "browser tests" },
  },
});
