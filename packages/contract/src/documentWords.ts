/** What a document can be of, besides the project as such. */
export const DOCUMENT_PLACES = ["project", "activity", "deliverable", "gate", "report"] as const;
export type DocumentPlace = (typeof DOCUMENT_PLACES)[number];

/** How large a file may be, in bytes. */
export const LARGEST_FILE = 25 * 1024 * 1024;

/** What browsers show of files without running anything, by the kind that their content is found to be. */
export const PREVIEWS: Readonly<Record<string, "image" | "text" | "page">> = {
  "image/png": "image",
  "image/jpeg": "image",
  "image/gif": "image",
  "image/webp": "image",
  "image/avif": "image",
  "application/pdf": "page",
  "text/plain": "text",
};
