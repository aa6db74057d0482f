/** Hands text or bytes to the browser as a file to keep. */
export function saveFile(name: string, content: string | Uint8Array, type: string): void {
  const address = URL.createObjectURL(new Blob([content as BlobPart], { type }));
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}
