import { extname } from "node:path";
import { fileTypeFromBuffer } from "file-type";
import { Failure } from "../shared/failure.ts";

/** What files of these endings are, so that a content that is something else is found out. */
const ENDINGS: Readonly<Record<string, string>> = {
  ".pdf": "application/pdf",
  ".png": "image/png",
  ".jpg": "image/jpeg",
  ".jpeg": "image/jpeg",
  ".gif": "image/gif",
  ".webp": "image/webp",
  ".avif": "image/avif",
};

/** Programs, which nobody's plan needs. */
const PROGRAMS = new Set([
  "application/x-msdownload",
  "application/x-elf",
  "application/x-mach-binary",
  "application/java-vm",
  "application/vnd.android.package-archive",
  "application/x-ms-shortcut",
]);

/** Whether bytes are text in UTF-8, of which the last letter may be cut off. */
function isText(head: Uint8Array): boolean {
  if (head.includes(0)) return false;
  try {
    new TextDecoder("utf-8", { fatal: true }).decode(head, { stream: true });
    return true;
  } catch {
    return false;
  }
}

/**
 * What a file is by its content, as a media type; what bears no mark that is known is text or a row of bytes.
 * @param name what it was called
 * @param head its first bytes, some thousand of them
 * @throws {Failure} invalid, of a program, and of what is something else than its name says
 */
export async function kindOf(name: string, head: Uint8Array): Promise<string> {
  const found = await fileTypeFromBuffer(head);
  const type = found?.mime ?? (isText(head) ? "text/plain" : "application/octet-stream");
  if (PROGRAMS.has(type)) throw new Failure("invalid", `“${name}” is a program, and is not taken; nothing was stored.`);
  const said = ENDINGS[extname(name).toLowerCase()];
  if (said !== undefined && said !== type)
    throw new Failure(
      "invalid",
      `“${name}” is called like ${said}, but what is in it is ${type === "application/octet-stream" ? "something else" : type}. Give it the name of what it is, or send another file; nothing was stored.`,
    );
  return type;
}
