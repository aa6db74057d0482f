/** Says early, and once, where the database tests look for their server. */
export default function globalSetup(): void {
  if (process.env["CHRONOMETRA_TEST_DATABASE"] === undefined) {
    throw new Error(
      "CHRONOMETRA_TEST_DATABASE is not set; run bin/test --only server, which starts a throwaway MariaDB",
    );
  }
}
