import { config } from "zod";

// The content security policy of every page forbids to make code from text; schemas would try, before they do without.
// To be
// imported before any schema is made.
config({ jitless: true });
