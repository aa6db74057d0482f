/** Reads the report of a test run, Jest's or Playwright's, and prints how many passed and how many failed. */
import { readFileSync } from "node:fs";

const report = JSON.parse(readFileSync(process.argv[2], "utf8"));
if (report.stats !== undefined) {
  const { expected, unexpected, flaky } = report.stats;
  process.stdout.write(`${expected + flaky} ${unexpected + (report.errors ?? []).length}\n`);
} else {
  // A suite that could not be run counts as a failure, though it has no test to show for it.
  process.stdout.write(`${report.numPassedTests} ${report.numFailedTests + report.numRuntimeErrorTestSuites}\n`);
}
