/** Hands text or bytes to the browser as a file to keep. */
export function saveFile(name: string, content: string | Uint8Array | Blob, type: string): void {
  const address = URL.createObjectURL(new Blob([content as BlobPart], { type }));
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}

/** Kinds of files by their ending. */
export const FILE_TYPES = {
  csv: "text/csv",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  ics: "text/calendar",
} as const;
export type FileForm = keyof typeof FILE_TYPES;

/** What a file is called, after what it holds. */
export const fileName = (holds: string, form: FileForm): string =>
  `${holds
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/^-|-$/g, "")}.${form}`;
