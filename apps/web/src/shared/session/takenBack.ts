/** What was written beside what was seen, turned round. */
export const takenBack = <T extends { readonly was: unknown; readonly value: unknown }>(written: T): T => ({
  ...written,
  was: written.value,
  value: written.was,
});
