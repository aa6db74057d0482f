import { z } from "zod";
import { DOCUMENT_PLACES } from "./documentWords.ts";

const placeSchema = {
  about: z.enum(DOCUMENT_PLACES),
  /** The activity, deliverable, stage, or number of the period; empty of the project as such. */
  aboutId: z.string().max(80),
};
const nameSchema = z.string().trim().min(1, "say what it is called").max(200);

const versionSchema = z.object({
  number: z.int(),
  /** What the file was called that came. */
  file: z.string(),
  /** What its content is found to be, as a media type. */
  type: z.string(),
  size: z.int().describe("bytes"),
  by: z.string(),
  at: z.string(),
});

export const documentSchema = z.object({
  id: z.string(),
  ...placeSchema,
  name: z.string(),
  /** Where a link leads; `null` of a file. */
  link: z.string().nullable(),
  by: z.string(),
  at: z.string(),
  /** Of a file, the newest first. */
  versions: z.array(versionSchema),
});
export type ProjectDocument = z.infer<typeof documentSchema>;
export type DocumentVersion = z.infer<typeof versionSchema>;

export const documentsSchema = z.object({ mayEdit: z.boolean(), documents: z.array(documentSchema) });
export type ProjectDocuments = z.infer<typeof documentsSchema>;

/** Where a link to something outside leads. */
export const webLinkSchema = z
  .string()
  .trim()
  .max(2000)
  .regex(/^https?:\/\/[^\s/]+/i, "a link begins with https:// or http://");

export const newLinkSchema = z.strictObject({
  ...placeSchema,
  name: nameSchema,
  link: webLinkSchema,
});

export const changedDocumentSchema = z.strictObject({
  name: nameSchema.optional(),
  /** Whether it is taken away; it can be brought back. */
  removed: z.boolean().optional(),
});
