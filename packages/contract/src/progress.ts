/** What a caller accepts who wants to hear how far a call is that takes a while; its answer is a line of JSON each. */
export const PROGRESS_TYPE = "application/x-ndjson";
